// Files with bytes changed at random: read, or refused in one line; never anything else.
#include <doctest/doctest.h>

#include <random>

#include "support/random_scene.hpp"
#include "support/temporary_folder.hpp"
#include "yurvo/files/export_file.hpp"
#include "yurvo/files/mesh_file.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/scene/error.hpp"

using namespace yurvo;

namespace {

class mutator {
    std::mt19937_64 engine_;

    std::size_t below(std::size_t limit) {
        return std::uniform_int_distribution<std::size_t>(0, limit - 1)(engine_);
    }

  public:
    explicit mutator(std::uint64_t seed) : engine_(seed) {}

    std::string operator()(std::string bytes) {
        const std::size_t changes = 1 + below(6);
        for (std::size_t i = 0; i < changes && !bytes.empty(); ++i) {
            const std::size_t at = below(bytes.size());
            switch (below(5)) {
            case 0:
                bytes[at] = static_cast<char>(below(256));
                break;
            case 1:
                bytes[at] = static_cast<char>(bytes[at] ^ static_cast<char>(1U << below(8)));
                break;
            case 2:
                bytes.erase(at, 1 + below(20));
                break;
            case 3:
                bytes.insert(at, bytes.substr(below(bytes.size()), 1 + below(40)));
                break;
            default:
                bytes.resize(at);
            }
        }
        return bytes;
    }
};

// Whether it was read; what is refused is one line with a remedy.
template <class Read> bool read_or_refused(Read&& read) {
    try {
        read();
        return true;
    } catch (const error& refused) {
        const std::string line = refused.what();
        CAPTURE(line);
        CHECK(line.find('\n') == std::string::npos);
        CHECK(line.find("; ") != std::string::npos);
        return false;
    }
}

} // namespace

TEST_CASE("scenes, meshes and pictures with random damage") {
    MESSAGE("seeds 1 to 300 for each kind of file");
    scene small = testing::random_scenes(5).next();
    small.objects.resize(1);
    small.objects[0].shape = torus_shape{1, 0.3, {5, 4}};
    const std::string scene_bytes = scene_text(testing::random_scenes(8).next());
    const exported obj = export_scene(small, "a.obj");
    const exported gltf = export_scene(small, "a.gltf");
    const exported glb = export_scene(small, "a.glb");
    const std::string png = png_bytes(picture(9, 7, {0.2F, 0.4F, 0.8F}, 0.5F));
    const testing::temporary_folder folder;
    write_picture(folder / "a.exr", picture(9, 7, {0.2F, 0.4F, 0.8F}));
    write_picture(folder / "a.pfm", picture(9, 7, {0.2F, 0.4F, 0.8F}));
    const std::string exr = read_whole(folder / "a.exr");
    const std::string pfm = read_whole(folder / "a.pfm");
    std::size_t refused = 0;
    std::size_t tried = 0;
    const auto attempt = [&](auto&& read) {
        ++tried;
        refused += read_or_refused(read) ? 0U : 1U;
    };
    for (std::uint64_t seed = 1; seed <= 300; ++seed) {
        CAPTURE(seed);
        mutator mutate(seed);
        const auto nothing = [](const std::string& name) -> std::string {
            throw error({name, 0, 0}, "cannot be read: there is none", "one that is there");
        };
        attempt([&] { (void)parse_scene(mutate(scene_bytes), "a.toml", nothing); });
        for (const auto& each : {std::pair<std::string, std::string>{"a.obj", obj.files[0].bytes},
                                 {"a.gltf", gltf.files[0].bytes},
                                 {"a.glb", glb.files[0].bytes}}) {
            const auto& name = each.first;
            const auto& bytes = each.second;
            const std::string damaged = mutate(bytes);
            attempt([&] {
                (void)read_mesh(name, [&](const std::string& asked) {
                    return asked == name ? damaged : asked == "a.mtl" ? obj.files[1].bytes : nothing(asked);
                });
            });
        }
        attempt([&] { (void)read_texture(mutate(png), "a.png"); });
        for (const auto& each : {std::pair<std::string, std::string>{"b.exr", exr}, {"b.pfm", pfm}}) {
            const auto& name = each.first;
            const auto& bytes = each.second;
            write_whole(folder / name, mutate(bytes));
            attempt([&] { (void)read_picture(folder / name); });
        }
    }
    MESSAGE(refused << " of " << tried << " damaged files were refused");
    CHECK(refused > tried / 4);
    CHECK(refused < tried);
}
