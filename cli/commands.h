// easel: the same core from a shell.
//
// Prints on the process's stdout and stderr. Bad input: exit status 2 and one sentence on stderr. The kit that is in
// use is the one of the data home from then on. One thread.
#pragma once

namespace easel {

/// `argv` as main() gets it. The exit status.
int runEasel(int argc, const char* const* argv);

}  // namespace easel
