#include <csignal>

#include "commands.h"

int main(int argc, char** argv) {
  std::signal(SIGXFSZ, SIG_IGN);  // a file that may not grow further is an error of writing
  return easel::runEasel(argc, argv);
}
