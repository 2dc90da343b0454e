find_package(yurvo CONFIG REQUIRED COMPONENTS ropes)
