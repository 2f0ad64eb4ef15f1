#include "cli/cli.hpp"

#include <iostream>

int main(int argc, char** argv) {
    return whorl::run_command_line(argc, argv, std::cout, std::cerr);
}
