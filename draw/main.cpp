// easel-draw svg|png NAME: draws one cut-out from its input, within limits; started by the other programs.
#include "gear/drawing.h"

int main(int argc, char** argv) { return easel::drawingProcess(argc, argv); }
