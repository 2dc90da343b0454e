// What befalls programs: full disks, killed processes, no memory, odd names, other locales, drivers that
// crash.
#include <doctest/doctest.h>

#include <array>
#include <chrono>
#include <csignal>
#include <filesystem>
#include <locale>
#include <random>
#include <sstream>
#include <string>
#include <thread>
#include <vector>

#include <fcntl.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <unistd.h>

#include "support/random_scene.hpp"
#include "support/run.hpp"
#include "support/tool.hpp"
#include "yurvo/files/export_file.hpp"
#include "yurvo/files/mesh_file.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/files/scene_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/formula/formula_set.hpp"

using namespace yurvo;
using namespace yurvo::testing;

namespace {

const char* const buoy = R"(format = 1
title = "A buoy"

[view]
eye = [0.0, 1.0, 4.0]
target = [0.0, 0.0, 0.0]
fov = 45.0
near = 0.1
far = 50.0
size = [32, 20]

[shading]
model = "blinn-phong"
rate = "fragment"

[ambient]
color = [1.0, 1.0, 1.0]
strength = 0.1

[materials.paint]
base = [0.9, 0.2, 0.1]
specular = 0.5
shininess = 20.0

[[objects]]
shape = "sphere"
radius = 1.0
cells = [12, 8]
material = "paint"

[[lights]]
kind = "point"
position = [2.0, 2.0, 2.0]
falloff = "none"
)";

// The tool as a process of its own, with what is done to it before it begins.
class started {
    pid_t child_;

  public:
    template <class Before>
    started(const std::vector<std::string>& words, const std::string& err, Before before) {
        child_ = ::fork();
        if (child_ == 0) {
            const int quiet = ::open("/dev/null", O_RDWR);
            const int to = ::open(err.c_str(), O_WRONLY | O_CREAT | O_APPEND, 0600);
            ::dup2(quiet, STDIN_FILENO);
            ::dup2(quiet, STDOUT_FILENO);
            ::dup2(to, STDERR_FILENO);
            std::vector<char*> arguments{const_cast<char*>(tool.c_str())};
            for (const std::string& word : words) {
                arguments.push_back(const_cast<char*>(word.c_str()));
            }
            arguments.push_back(nullptr);
            before();
            ::execv(tool.c_str(), arguments.data());
            ::_exit(127);
        }
    }
    void signal(int which) const { ::kill(child_, which); }
    // Its exit status; 128 and the signal where one ended it.
    int wait() const {
        int status = 0;
        ::waitpid(child_, &status, 0);
        return WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status);
    }
};

// As on a disk that is full after so many bytes of a file.
auto full_after(rlim_t bytes) {
    return [bytes] {
        std::signal(SIGXFSZ, SIG_IGN);
        const rlimit most{bytes, bytes};
        ::setrlimit(RLIMIT_FSIZE, &most);
    };
}

std::vector<std::string> names_in(const std::string& folder) {
    std::vector<std::string> names;
    for (const auto& entry : std::filesystem::directory_iterator(folder)) {
        names.push_back(entry.path().filename().string());
    }
    std::sort(names.begin(), names.end());
    return names;
}

// Decimal commas and points between thousands, as in half the world.
class comma_numbers : public std::numpunct<char> {
    [[nodiscard]] char do_decimal_point() const override { return ','; }
    [[nodiscard]] char do_thousands_sep() const override { return '.'; }
    [[nodiscard]] std::string do_grouping() const override { return "\3"; }
};

} // namespace

TEST_CASE("a disk that is full at any byte: one line, and what was there before stays") {
    const temporary_folder folder;
    write_whole(folder / "buoy.toml", buoy);
    for (const std::vector<std::string>& command : std::vector<std::vector<std::string>>{
             {"draw", folder / "buoy.toml", "-o", folder / "shot.png"},
             {"draw", folder / "buoy.toml", "-o", folder / "shot.exr"},
             {"draw", folder / "buoy.toml", "-o", folder / "shot.pfm"},
             {"export", folder / "buoy.toml", "-o", folder / "buoy.glb"},
             {"explain", folder / "buoy.toml", "--pixel", "16,10", "--json", folder / "pixel.json"},
             {"curves", folder / "buoy.toml", "-o", folder / "curves.png"},
             {"layers", folder / "buoy.toml", "-o", folder / "layers.png"}}) {
        const std::string file = command.back();
        CAPTURE(file);
        const std::string err = folder / "err";
        REQUIRE(started(command, err, [] {}).wait() == 0);
        const auto size = static_cast<rlim_t>(std::filesystem::file_size(file));
        const std::string whole = read_whole(file);
        // Every byte of the first 32 and the last 8, and places between.
        std::vector<rlim_t> places;
        for (rlim_t at = 0; at < size; at += at < 32 || at + 9 > size ? 1 : std::max<rlim_t>(1, size / 12)) {
            places.push_back(at);
        }
        for (const rlim_t at : places) {
            CAPTURE(at);
            write_whole(file, "before");
            std::filesystem::remove(err);
            const std::vector<std::string> names = names_in(folder.path());
            const int status = started(command, err, full_after(at)).wait();
            const bool kept = read_whole(file) == "before";
            // Standard error is on the same disk: what it holds of the line is its beginning.
            const std::string line = read_whole(err);
            REQUIRE(status == 2);
            REQUIRE(kept);
            REQUIRE(line.size() <= at);
            std::filesystem::remove(err);
            REQUIRE(names_in(folder.path()) == names);
        }
        std::filesystem::remove(file);
        std::filesystem::remove(err);
    }
}

TEST_CASE("killed or interrupted at any moment, a file is the old one or the new one") {
    constexpr std::uint64_t seed = 12;
    MESSAGE("seed " << seed);
    std::mt19937_64 engine(seed);
    const temporary_folder folder;
    write_whole(folder / "buoy.toml", buoy);
    const std::string file = folder / "shot.pfm";
    const std::vector<std::string> command{"draw", folder / "buoy.toml", "--size", "700x500", "-o", file};
    const std::string err = folder / "err";
    std::chrono::duration<double> whole_time(60); // the least of a few: the first has to load what it needs
    for (int i = 0; i < 4; ++i) {
        const auto begin = std::chrono::steady_clock::now();
        REQUIRE(started(command, err, [] {}).wait() == 0);
        whole_time =
            std::min<std::chrono::duration<double>>(whole_time, std::chrono::steady_clock::now() - begin);
    }
    const std::string finished = read_whole(file);
    std::uniform_real_distribution<double> moment(0, 1.2 * whole_time.count());
    std::size_t stopped = 0;
    for (int i = 0; i < 120; ++i) {
        write_whole(file, "before");
        const started tool_now(command, err, [] {});
        std::this_thread::sleep_for(std::chrono::duration<double>(moment(engine)));
        tool_now.signal(i % 2 == 0 ? SIGKILL : SIGINT);
        const int status = tool_now.wait();
        stopped += status > 128 ? 1U : 0U;
        const std::string now = read_whole(file);
        REQUIRE((now == "before" || now == finished));
        // Between a link and its renaming there is a moment in which the whole file has two names.
        for (const std::string& name : names_in(folder.path())) {
            if (name.starts_with(".shot.pfm")) {
                REQUIRE(read_whole(folder / name) == finished);
                std::filesystem::remove(folder / name);
            }
        }
    }
    CHECK(stopped > 20); // else nothing was tested
}

TEST_CASE("no memory at the N-th request: a clear line or the right picture") {
    const temporary_folder folder;
    write_whole(folder / "buoy.toml", buoy);
    const std::string file = folder / "shot.png";
    const std::vector<std::string> command{"draw", folder / "buoy.toml", "-o", file};
    const std::string err = folder / "err";
    const auto with = [&](const char* name, long number) {
        return [&, name, number] {
            ::setenv("LD_PRELOAD", YURVO_FAILING_MEMORY, 1);
            ::setenv(name, std::to_string(number).c_str(), 1);
            ::setenv("YURVO_TEST_REQUESTS", (folder / "requests").c_str(), 1);
        };
    };
    REQUIRE(started(command, err, with("YURVO_TEST_NONE", 0)).wait() == 0);
    const std::string whole = read_whole(file);
    const long requests = std::stol(read_whole(folder / "requests"));
    REQUIRE(requests > 500);
    std::size_t refused = 0;
    for (const char* const how : {"YURVO_TEST_FAIL_AT", "YURVO_TEST_FAIL_FROM"}) {
        for (long at = 1; at <= requests; at += std::max(1L, requests / 150)) {
            CAPTURE(how);
            CAPTURE(at);
            write_whole(file, "before");
            std::filesystem::remove(err);
            const int status = started(command, err, with(how, at)).wait();
            const std::string line = read_whole(err);
            CAPTURE(line);
            REQUIRE((status == 0 || status == 2));
            if (status == 0) {
                REQUIRE(read_whole(file) == whole);
            } else {
                ++refused;
                // toml++ takes a number for none where its stream has no memory: then the line says that.
                REQUIRE((has(line, "not enough memory") || has(line, "this is not TOML")));
                REQUIRE(std::count(line.begin(), line.end(), '\n') == 1);
                const std::string now = read_whole(file); // whole where there was none left for saying so
                REQUIRE((now == "before" || now == whole));
            }
        }
    }
    CHECK(refused > 50);
}

TEST_CASE("names of files: spaces, line ends, quotes, other encodings, a dash in front") {
    const temporary_folder folder;
    for (const std::string& name :
         {std::string("quay at night"), std::string("line\nend"), std::string("quote'\"`$(x)"),
          std::string("K\xe4hne"), std::string("Kähne 港"), std::string("\x1b[31mred"),
          std::string("a;b&c|d"), std::string(200, 'q')}) {
        CAPTURE(name);
        const std::string scene = folder / (name + ".toml");
        const std::string shot = folder / (name + ".png");
        write_whole(scene, buoy);
        const std::string err = folder / "err";
        CHECK(started({"draw", scene, "-o", shot}, err, [] {}).wait() == 0);
        CHECK(read_picture(shot).width == 32);
        write_whole(scene, "format = 2\n");
        CHECK(started({"draw", scene, "-o", shot}, err, [] {}).wait() == 2);
        const std::string line = read_whole(err);
        CHECK(line.find('\n') == line.size() - 1);
        CHECK(line.find('\x1b') == std::string::npos);
        std::filesystem::remove(err);
        // A mesh's and a texture's names are written into other files.
        write_whole(scene, buoy);
        CHECK(started({"export", scene, "-o", folder / (name + ".gltf")}, err, [] {}).wait() == 0);
        CHECK(read_mesh(folder / (name + ".gltf"), [](const std::string& file) {
                  return read_whole(file);
              }).shape.triangles.size() > 0);
    }
    CHECK(run("cd " + folder.path() + " && printf x > -o.toml && " + tool + " draw -- -o.toml -o out.png")
              .status == 2);
}

TEST_CASE("decimal commas of the program that uses the library change nothing") {
    const std::locale before;
    const scene made = random_scenes(8).next();
    const std::string text = scene_text(made);
    const exported obj = export_scene(made, "quay.obj");
    const exported gltf = export_scene(made, "quay.gltf");
    std::locale::global(std::locale(std::locale::classic(), new comma_numbers));
    std::ostringstream with_commas;
    with_commas << 1234.5;
    CHECK(with_commas.str() == "1.234,5"); // such is the locale
    CHECK(scene_text(made) == text);
    CHECK(scene_text(parse_scene(text, "quay.toml", [](const std::string&) { return std::string(); })) ==
          text);
    const exported obj_now = export_scene(made, "quay.obj");
    const exported gltf_now = export_scene(made, "quay.gltf");
    REQUIRE(obj_now.files.size() == obj.files.size());
    CHECK(obj_now.files[0].bytes == obj.files[0].bytes);
    CHECK(obj_now.files[1].bytes == obj.files[1].bytes);
    CHECK(gltf_now.files[0].bytes == gltf.files[0].bytes);
    const auto mesh_of = [](const exported& from) {
        return read_mesh(from.files[0].name, [&](const std::string& name) {
            for (const exported_file& file : from.files) {
                if (file.name == name) {
                    return file.bytes;
                }
            }
            return std::string();
        });
    };
    const mesh_file with = mesh_of(obj);
    const mesh_file with_gltf = mesh_of(gltf);
    const formulas::expression parsed = formulas::parse("1.5 + 0.25", {});
    std::locale::global(before);
    const mesh_file without = mesh_of(obj);
    REQUIRE(with.shape.positions.size() == without.shape.positions.size());
    for (std::size_t i = 0; i < with.shape.positions.size(); ++i) {
        CHECK(with.shape.positions[i] == without.shape.positions[i]);
    }
    CHECK(with_gltf.shape.positions.size() == mesh_of(gltf).shape.positions.size());
    CHECK(parsed.steps[0].numbers[0] == 1.5);
}

TEST_CASE("sixteen tools at once in one folder") {
    const temporary_folder folder;
    write_whole(folder / "buoy.toml", buoy);
    const std::string err = folder / "err";
    constexpr std::size_t at_once = 16;
    std::vector<started> tools;
    tools.reserve(at_once);
    for (std::size_t i = 0; i < at_once; ++i) {
        tools.emplace_back(std::vector<std::string>{"draw", folder / "buoy.toml", "-o", folder / "shot.png"},
                           err, [] {});
    }
    for (const started& each : tools) {
        CHECK(each.wait() == 0);
    }
    CHECK(read_picture(folder / "shot.png").width == 32);
    CHECK(names_in(folder.path()) == std::vector<std::string>{"buoy.toml", "err", "shot.png"});
    CHECK(read_whole(err) == "");
}

TEST_CASE("a file system that takes its time, and hands over a little at a time: the same files") {
    const temporary_folder folder;
    write_whole(folder / "buoy.toml", buoy);
    const std::string in = "cd " + folder.path() + " && ";
    const std::string slow = std::string("LD_PRELOAD=") + YURVO_SLOW_FILES + " ";
    struct written {
        const char *command, *file;
    };
    for (const written& each :
         {written{" draw buoy.toml --size 200x120 -o ", "a.png"},
          written{" draw buoy.toml --size 60x40 -o ", "a.exr"},
          written{" draw buoy.toml --size 60x40 -o ", "a.pfm"}, written{" export buoy.toml -o ", "a.gltf"},
          written{" export buoy.toml -o ", "a.obj"}, written{" scenes buoys -o ", "a.toml"}}) {
        CAPTURE(std::string(each.file));
        const std::string quick_name = folder / (std::string("quick-") + each.file);
        // What names itself in a file has to have the same name.
        const std::string name = folder / each.file;
        REQUIRE(run(in + tool + each.command + name).status == 0);
        std::filesystem::rename(name, quick_name);
        const auto begun = std::chrono::steady_clock::now();
        const outcome found = run(in + slow + tool + each.command + name);
        const auto took = std::chrono::steady_clock::now() - begun;
        CAPTURE(found.err);
        CHECK(found.status == 0);
        CHECK(read_whole(name) == read_whole(quick_name));
        CHECK(took > std::chrono::milliseconds(2)); // it was slow at all
    }
    // Broken off in the middle, the old file stays.
    const std::string before = read_whole(folder / "a.pfm");
    std::mt19937 random(20261128);
    for (int i = 0; i < 10; ++i) {
        const double seconds = 0.05 + 0.2 * static_cast<double>(random()) / 4294967296.0;
        run(in + slow + "timeout -s INT " + std::to_string(seconds) + " " + tool +
            " draw buoy.toml --size 300x200 -o a.pfm");
        const std::string now = read_whole(folder / "a.pfm");
        CHECK((now == before ||
               now.size() == std::size_t{300} * 200 * 12 + std::string("PF\n300 200\n-1.0\n").size()));
        write_whole(folder / "a.pfm", before);
    }
    CHECK(std::none_of(std::filesystem::directory_iterator(folder.path()),
                       std::filesystem::directory_iterator(),
                       [](const auto& entry) { return entry.path().extension() == ".tmp"; }));
}

TEST_CASE("a scene that comes slowly through a pipe is refused at once, and a slow reader gets all") {
    const temporary_folder folder;
    write_whole(folder / "buoy.toml", buoy);
    const std::string pipe = folder / "pipe";
    REQUIRE(::mkfifo(pipe.c_str(), 0600) == 0);
    const outcome refused = run("timeout 20 " + tool + " draw " + pipe + " -o " + (folder / "shot.png"));
    CHECK(refused.status == 2);
    CHECK(refused.err == pipe + ": this is a pipe; a file\n");
    const outcome whole = run(tool + " scenes --json -");
    const outcome slow = run(tool + " scenes --json - | (sleep 1; cat)");
    CHECK(slow.out == whole.out);
    CHECK(whole.out.size() > 1000);
}

TEST_CASE("a driver that crashes, hangs, ends, talks or has no display") {
    const temporary_folder folder;
    REQUIRE(run(tool + " new program " + (folder / "lantern")).status == 0);
    std::filesystem::copy_file(YURVO_FAULTY_DRIVER, folder / "libEGL.so.1");
    const std::string file = folder / "lantern/per-fragment.toml";
    write_whole(file, read_whole(file) + "\n"); // readable, or this throws
    const auto with = [&](const std::string& what) {
        return run("LD_LIBRARY_PATH=" + folder.path() + " YURVO_TEST_DRIVER=" + what + " timeout 120 " +
                   tool + " check lantern-quay --program " + file);
    };
    const outcome crashed = with("crash");
    CHECK(crashed.status == 1);
    CHECK(crashed.one_line_of_error());
    CHECK(has(crashed.err, "the shader: compiling it ended the driver's process"));
    const outcome ended = with("end");
    CHECK(ended.status == 1);
    CHECK(has(ended.err, "the shader: compiling it ended the driver's process"));
    for (const char* const without : {"none", "talk"}) {
        const outcome none = with(without);
        CHECK(none.status == 3);
        CHECK(none.one_line_of_error());
        CHECK(has(none.err,
                  "the system's OpenGL driver: there is no EGL display without a window; Debian's packages"));
        CHECK(none.err.find('\x1b') == std::string::npos);
    }
    write_whole(file, "limit = 1.0\n" + read_whole(file));
    const outcome hung = with("hang");
    CHECK(hung.status == 1);
    CHECK(has(hung.err, "compiling took longer than 1.0 s and was stopped"));
}

TEST_CASE("titles, names and a driver's words reach a terminal as text") {
    const temporary_folder folder;
    std::string hostile = buoy;
    const std::string escape = "\\u001b]0;owned\\u0007\\u202e";
    hostile.replace(hostile.find("A buoy"), 6, escape);
    hostile.replace(hostile.find("materials.paint"), 15, "materials.\"" + escape + "\"");
    hostile.replace(hostile.find("material = \"paint"), 17, "material = \"" + escape);
    hostile += "name = \"lamp" + escape + "\"\n";
    write_whole(folder / "quay.toml", hostile);
    const std::string scene = folder / "quay.toml";
    for (const std::string& command :
         {"explain " + scene + " --pixel 16,10", "explain " + scene + " --pixel 16,10 --json -",
          "curves " + scene + " -o " + (folder / "c.png"), "layers " + scene + " -o " + (folder / "l.png"),
          "rates " + scene + " -o " + (folder / "r.png"), "check " + scene, "pack " + scene,
          "check " + scene + " --report " + (folder / "page.html") + " --junit " + (folder / "junit.xml"),
          "export " + scene + " -o " + (folder / "e.gltf"), "cost " + scene,
          "draw " + scene + " --rate nonsense -o x.png"}) {
        CAPTURE(command);
        const outcome said = run(tool + " " + command);
        CHECK(said.status <= 2);
        for (const std::string& text : {said.out, said.err}) {
            CHECK(text.find('\x1b') == std::string::npos);
            CHECK(text.find('\x07') == std::string::npos);
            CHECK(text.find("\u202e") == std::string::npos);
        }
    }
    for (const char* const file : {"page.html", "junit.xml"}) {
        const std::string text = read_whole(folder / file);
        CHECK(text.find('\x1b') == std::string::npos);
        CHECK(text.find("\u202e") == std::string::npos);
    }
}
