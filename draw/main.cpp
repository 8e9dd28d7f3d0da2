// easel-draw svg|png NAME: draws one cut-out from its input, within limits; started by the other programs.
#include "gear/drawing.h"

#ifdef __SANITIZE_ADDRESS__
// Under the sanitizer addresses cannot be limited; what is in memory can.
extern "C" const char* __asan_default_options() { return "hard_rss_limit_mb=768"; }
#endif

int main(int argc, char** argv) { return easel::drawingProcess(argc, argv); }
