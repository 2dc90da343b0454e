// A mesh from a file: what is in it, and what was computed because it was not.
#include <cstdio>

#include <yurvo/yurvo.hpp>

int main(int argc, char** argv) {
    const std::string path = argc > 1 ? argv[1] : "examples/crate.obj";
    const yurvo::mesh_file crate =
        yurvo::read_mesh(path, [](const std::string& name) { return yurvo::read_whole(name); });
    std::printf("%zu vertices, %zu triangles, %zu materials\n", crate.shape.positions.size(),
                crate.shape.triangles.size(), crate.materials.size());
    for (const std::string& remark : crate.remarks) {
        std::printf("%s\n", remark.c_str());
    }
    const yurvo::vec3<double>& normal = crate.shape.normals.front();
    std::printf("first normal: %.4f %.4f %.4f\n", normal.x, normal.y, normal.z);
}
