#include "cli/cli.hpp"
#include "model/file.hpp"

#include <cerrno>
#include <cstring>
#include <iostream>

int main(int argc, char** argv) {
    whorl::survive_full_disks();
    const int code = whorl::run_command_line(argc, argv, std::cout, std::cerr);
    errno = 0;
    std::cout.flush();
    if (std::cout) return code;
    std::cerr << "whorl: what there is to say can't be written"
              << (errno != 0 ? std::string(": ") + std::strerror(errno) : std::string()) << ".\n";
    return 2;
}
