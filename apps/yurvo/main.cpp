#include "yurvo/command_line/command_line.hpp"

int main(int argc, char** argv) { return yurvo::command_line(argc, argv); }
