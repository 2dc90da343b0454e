#include <csignal>

#include "yurvo/command_line/command_line.hpp"

int main(int argc, char** argv) {
    // A pipe that closes early is seen when it is written to.
    std::signal(SIGPIPE, SIG_IGN);
    return yurvo::command_line(argc, argv);
}
