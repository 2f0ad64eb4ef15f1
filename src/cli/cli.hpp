// The command line `whorl`: the same core without a window.
#pragma once

#include <iosfwd>

namespace whorl {

// Exit codes: 0 done, 1 findings that stop, 2 usage or input error with a one-line reason on `err`.
int run_command_line(int argc, const char* const* argv, std::ostream& out, std::ostream& err);

} // namespace whorl
