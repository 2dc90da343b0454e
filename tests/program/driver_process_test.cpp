// The process in which shaders run: what it may not do, and that whatever it answers, or does not, ends in a
// line and never in the tool's own end.
#include <doctest/doctest.h>

#include <algorithm>
#include <array>
#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <functional>
#include <limits>
#include <sstream>
#include <string>
#include <thread>
#include <vector>

#include <fcntl.h>
#include <linux/landlock.h>
#include <sched.h>
#include <sys/resource.h>
#include <sys/socket.h>
#include <sys/syscall.h>
#include <sys/wait.h>
#include <unistd.h>

#include "program/driver_child.hpp"
#include "program/driver_prison.hpp"
#include "program/driver_process.hpp"
#include "program/driver_transfer.hpp"
#include "support/temporary_folder.hpp"
#include "yurvo/files/program_file.hpp"
#include "yurvo/files/whole_file.hpp"
#include "yurvo/program/driver_facts.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/program/program_stopped.hpp"

using namespace yurvo;
using namespace yurvo::program;

namespace {

const driver_sources lantern_light{
    "#version 330 core\nlayout(location = 0) in vec3 place;\nvoid main() { gl_Position = vec4(place, 1.0); "
    "}\n",
    "#version 330 core\nout vec4 color;\nvoid main() { color = vec4(0.25, 0.5, 0.75, 1.0); }\n", "", ""};

// The other side of the socket for as long as this lives.
class served_by {
  public:
    explicit served_by(void (*server)(int)) { driver_server = server; }
    ~served_by() { driver_server = serve_driver; }
    served_by(const served_by&) = delete;
    served_by(served_by&&) = delete;
    served_by& operator=(const served_by&) = delete;
    served_by& operator=(served_by&&) = delete;
};

void take_request(int socket) {
    std::uint64_t size = 0;
    receive_message(socket, &size, sizeof size);
    std::vector<char> bytes(static_cast<std::size_t>(size));
    receive_message(socket, bytes.data(), bytes.size());
}

void send_answer(int socket, const std::vector<std::uint8_t>& bytes) {
    const std::uint64_t size = bytes.size();
    send_message(socket, &size, sizeof size);
    send_message(socket, bytes.data(), bytes.size());
}

void answer_linking(int socket, const linked_program& linked) {
    take_request(socket);
    writer to;
    to.put(linked);
    send_answer(socket, to.bytes);
}

// What a process with a server links to, and the line with which it does not.
linked_program linked_by(void (*server)(int), double limit = 20) {
    const served_by serving(server);
    return driver_process(lantern_light, limit).linked();
}
std::string refusal_of(const std::function<void()>& what) {
    try {
        what();
    } catch (const program_stopped& stopped) {
        return stopped.what();
    }
    return "";
}

draw_request one_pixel() {
    draw_request request;
    object_request triangle;
    triangle.corners = 3;
    triangle.attributes.push_back({0, 3, number_kind::real, {-1, -1, 0, 3, -1, 0, -1, 3, 0}});
    request.objects.push_back(triangle);
    return request;
}

// True where a process of its own may do what is asked.
bool kernel_offers(const std::function<bool()>& what) {
    const pid_t child = ::fork();
    if (child == 0) {
        ::_exit(what() ? 0 : 1);
    }
    int status = 1;
    ::waitpid(child, &status, 0);
    return status == 0;
}

// The processes that a process started and that still are, as the kernel tells them.
std::vector<pid_t> children_of(pid_t parent) {
    std::vector<pid_t> result;
    for (const auto& each : std::filesystem::directory_iterator("/proc")) {
        const std::string name = each.path().filename().string();
        std::ifstream stat(each.path() / "stat");
        std::string text;
        if (name.find_first_not_of("0123456789") == std::string::npos && std::getline(stat, text)) {
            std::istringstream after_name(text.substr(text.rfind(')') + 1));
            char state = 0;
            pid_t its_parent = 0;
            after_name >> state >> its_parent;
            if (its_parent == parent) {
                result.push_back(std::stoi(name));
            }
        }
    }
    std::sort(result.begin(), result.end());
    return result;
}

// Tries to get out, as somebody would who has taken over the driver, and answers with what went well.
void try_to_escape(int socket, bool confined) {
    linked_program result;
    if (confined) {
        result.confined = static_cast<std::uint8_t>(confine_before_driver() | confine_before_shader());
    }
    const auto tried = [&](const char* what, bool went_well) {
        if (went_well) {
            result.failure += std::string(what) + "; ";
        }
    };
    tried("read /etc/passwd", ::open("/etc/passwd", O_RDONLY) >= 0);
    tried("read it by openat", ::syscall(SYS_openat, AT_FDCWD, "/etc/passwd", O_RDONLY, 0) >= 0);
    tried("write in /tmp", ::open("/tmp/yurvo-escaped", O_WRONLY | O_CREAT, 0600) >= 0);
    tried("list /", ::open("/", O_RDONLY | O_DIRECTORY) >= 0);
    tried("remove", ::unlink("/tmp/yurvo-escaped") == 0 || errno != EPERM);
    tried("rename", ::rename("/tmp/yurvo-a", "/tmp/yurvo-b") == 0 || errno != EPERM);
    tried("make a socket", ::socket(AF_INET, SOCK_STREAM, 0) >= 0);
    tried("make a local socket", ::socket(AF_UNIX, SOCK_STREAM, 0) >= 0);
    const long copy = ::syscall(SYS_clone, SIGCHLD, nullptr, nullptr, nullptr, nullptr);
    if (copy == 0) {
        ::_exit(0);
    }
    tried("fork", copy > 0);
    tried("start a program", confined && ::execl("/bin/true", "true", static_cast<char*>(nullptr)) != -1);
    tried("signal its parent", ::kill(::getppid(), 0) == 0);
    tried("trace", confined && ::syscall(SYS_ptrace, 16, ::getppid(), nullptr, nullptr) == 0);
    tried("read another's memory",
          ::syscall(SYS_process_vm_readv, ::getppid(), nullptr, 0, nullptr, 0, 0) >= 0);
    tried("make namespaces", ::unshare(CLONE_NEWUSER) == 0);
    tried("lift its limits", [] {
        const rlimit none{RLIM_INFINITY, RLIM_INFINITY};
        return ::setrlimit(RLIMIT_CPU, &none) == 0;
    }());
    std::string inherited;
    for (int file = STDERR_FILENO + 1; file < 1024; ++file) {
        inherited += file != socket && ::fcntl(file, F_GETFD) >= 0 ? " " + std::to_string(file) : "";
    }
    tried(("use open files" + inherited).c_str(), !inherited.empty());
    answer_linking(socket, result);
    ::_exit(0);
}

} // namespace

TEST_CASE("a shader's process is confined as far as the kernel offers it") {
    const linked_program linked = driver_process(lantern_light, 20).linked();
    REQUIRE(linked.failure == "");
    const auto held = [&](confinement which) {
        return (linked.confined & static_cast<std::uint8_t>(which)) != 0;
    };
    CHECK(held(confinement::limits));
    CHECK(held(confinement::calls));
    CHECK(held(confinement::files) == kernel_offers([] {
              return ::syscall(SYS_landlock_create_ruleset, nullptr, 0, LANDLOCK_CREATE_RULESET_VERSION) >= 1;
          }));
    CHECK(held(confinement::network) ==
          kernel_offers([] { return ::unshare(CLONE_NEWUSER | CLONE_NEWNET | CLONE_NEWIPC) == 0; }));
}

TEST_CASE("what is told of the driver is what its process says") {
    const driver_facts told = find_driver_facts();
    const linked_program linked = driver_process(lantern_light, 20).linked();
    const auto held = [&](confinement which) {
        return (linked.confined & static_cast<std::uint8_t>(which)) != 0;
    };
    CHECK(told.built_in);
    CHECK(told.missing == "");
    CHECK(told.name == linked.driver);
    CHECK(told.limits == held(confinement::limits));
    CHECK(told.files == held(confinement::files));
    CHECK(told.network == held(confinement::network));
    CHECK(told.calls == held(confinement::calls));
}

TEST_CASE("once drivers are prepared for, each is made by the process that is kept for it") {
    // In a process of its own: what serves a driver is chosen by the tests in this one.
    CHECK(kernel_offers([] {
        prepare_driver_processes();
        const std::vector<pid_t> prepared = children_of(::getpid());
        const driver_process first(lantern_light, 20);
        const driver_process second(lantern_light, 20);
        return prepared.size() == 1 && children_of(::getpid()) == prepared &&
               children_of(prepared.front()).size() == 2 && first.linked().failure.empty() &&
               second.linked().failure.empty();
    }));
}

TEST_CASE("the kernel ends a driver's process that uses all processors for longer than the limit") {
    CHECK(kernel_offers([] {
        const driver_process drawing(lantern_light, 20);
        const std::vector<pid_t> started = children_of(::getpid());
        rlimit seconds{};
        if (started.size() != 1 || ::prlimit(started.front(), RLIMIT_CPU, nullptr, &seconds) != 0) {
            return false;
        }
        // The limit on each of them, two seconds for the end, and what starting the driver took: less than
        // the limit again.
        const auto whole =
            static_cast<rlim_t>(20 * slowed_down * std::max(1U, std::thread::hardware_concurrency()));
        return seconds.rlim_cur >= whole + 2 && seconds.rlim_cur <= 2 * whole + 2;
    }));
}

TEST_CASE("what took over the driver cannot read, write, reach the network, start or touch a process") {
    CHECK(linked_by([](int socket) { try_to_escape(socket, true); }).failure == "");
    // That these attempts can go well at all:
    const std::string free = linked_by([](int socket) { try_to_escape(socket, false); }).failure;
    for (const char* const what : {"read /etc/passwd; ", "list /; ", "make a socket; ", "fork; "}) {
        CHECK_MESSAGE(free.find(what) != std::string::npos, what);
    }
}

TEST_CASE("a confined driver still draws, again and again, with threads that it starts later") {
    driver_process driver(lantern_light, 20);
    for (const int width : {1, 64, 700}) { // the driver starts threads for large pictures
        draw_request request = one_pixel();
        request.width = width;
        request.height = width;
        const draw_answer answer = driver.draw(request);
        CHECK(answer.failure == "");
        REQUIRE(answer.values.size() ==
                4 * static_cast<std::size_t>(width) * static_cast<std::size_t>(width));
        CHECK(answer.values[0] == 0.25F);
        CHECK(answer.values[answer.values.size() - 2] == 0.75F);
    }
}

TEST_CASE("whatever a driver's process answers to a shader, one line says so") {
    const auto answers = [](void (*server)(int)) { return refusal_of([&] { linked_by(server, 2); }); };
    const std::string no_answer =
        "the shader: compiling it made the driver's process answer what is no answer; "
        "no reading or writing beyond the ends of arrays, or another version of the "
        "driver";
    SUBCASE("more than there can be") {
        CHECK(answers([](int socket) {
                  take_request(socket);
                  const std::uint64_t size = ~std::uint64_t{0};
                  send_message(socket, &size, sizeof size);
                  ::pause();
              }) == no_answer);
    }
    SUBCASE("lists longer than the message") {
        CHECK(answers([](int socket) {
                  take_request(socket);
                  send_answer(socket, std::vector<std::uint8_t>(200, 0x7F));
                  ::pause();
              }) == no_answer);
    }
    SUBCASE("nothing at all") {
        CHECK(answers([](int socket) {
                  take_request(socket);
                  send_answer(socket, {});
                  ::pause();
              }) == no_answer);
    }
    SUBCASE("more than it says") {
        CHECK(answers([](int socket) {
                  take_request(socket);
                  writer to;
                  to.put(linked_program{});
                  to.bytes.push_back(1);
                  send_answer(socket, to.bytes);
                  ::pause();
              }) == no_answer);
    }
    SUBCASE("a uniform before the beginning of its block") {
        CHECK(answers([](int socket) {
                  linked_program linked;
                  linked.blocks.push_back({"lamps", 64, 0});
                  linked.uniforms.push_back({"lamps.color", 0x8B51, -1, 0, -4, 0, 0, 0});
                  answer_linking(socket, linked);
                  ::pause();
              }) == no_answer);
    }
    SUBCASE("a uniform in a block that is not there") {
        CHECK(answers([](int socket) {
                  linked_program linked;
                  linked.uniforms.push_back({"lamps.color", 0x8B51, -1, 0, 0, 0, 0, 0});
                  answer_linking(socket, linked);
                  ::pause();
              }) == no_answer);
    }
    SUBCASE("a block of two gigabytes") {
        CHECK(answers([](int socket) {
                  linked_program linked;
                  linked.blocks.push_back({"lamps", std::numeric_limits<std::int32_t>::max(), 0});
                  answer_linking(socket, linked);
                  ::pause();
              }) == no_answer);
    }
    SUBCASE("a precision that is no number, which would allow for everything") {
        CHECK(answers([](int socket) {
                  linked_program linked;
                  linked.precision = std::numeric_limits<float>::quiet_NaN();
                  answer_linking(socket, linked);
                  ::pause();
              }) == no_answer);
    }
    SUBCASE("half of it") {
        CHECK(answers([](int socket) {
                  take_request(socket);
                  const std::uint64_t size = 100;
                  send_message(socket, &size, sizeof size);
                  send_message(socket, &size, 4);
                  ::pause();
              }).starts_with("the shader: compiling took longer than 2.0 s and was stopped"));
    }
    SUBCASE("a byte a second") {
        CHECK(answers([](int socket) {
                  take_request(socket);
                  const std::uint64_t size = 100;
                  send_message(socket, &size, sizeof size);
                  while (send_message(socket, "", 1)) {
                      ::sleep(1);
                  }
                  ::pause();
              }).starts_with("the shader: compiling took longer than 2.0 s and was stopped"));
    }
    SUBCASE("by ending") {
        CHECK(answers([](int) {
                  ::_exit(7);
              }).starts_with("the shader: compiling it ended the driver's process"));
    }
    SUBCASE("by crashing") {
        CHECK(answers([](int socket) {
                  take_request(socket);
                  std::signal(SIGSEGV, SIG_DFL);
                  ::raise(SIGSEGV);
              }).starts_with("the shader: compiling it ended the driver's process by signal 11"));
    }
}

TEST_CASE("a driver so coarse that a mistake could hide behind its tolerance verifies nothing") {
    const testing::temporary_folder folder;
    write_whole(folder / "a.vert", lantern_light.vertex);
    write_whole(folder / "a.frag", lantern_light.fragment);
    write_whole(folder / "a.toml",
                "format = 1\nlanguage = \"glsl\"\nvertex = \"a.vert\"\nfragment = \"a.frag\"\n"
                "model = \"unlit\"\nrate = \"fragment\"\nscale = \"uniform\"\n"
                "attributes = { place = \"position\" }\n");
    const auto said_with = [&](float precision) {
        static float told = 0;
        told = precision;
        const served_by serving([](int socket) {
            linked_program linked;
            linked.precision = told;
            linked.outputs.push_back({"color", 0x8B52, 0});    // GL_FLOAT_VEC4
            linked.attributes.push_back({"place", 0x8B51, 0}); // GL_FLOAT_VEC3
            answer_linking(socket, linked);
            ::pause();
        });
        try {
            const program_renderer made(read_program(folder / "a.toml"));
            // 27 roundings of what the driver's functions are off, and no less than of one.
            CHECK(made.tolerance().precision == 27 * std::max(1.0, static_cast<double>(precision)));
        } catch (const error& refused) {
            return std::string(refused.what());
        }
        return std::string();
    };
    const std::string coarse =
        " roundings off, behind which a mistake could hide; another driver, a software one, say";
    // 27 roundings of 2^-24 each are half a code of 255 at 1218 times as many.
    CHECK(said_with(1219) == "the system's OpenGL driver: its functions are up to 1219" + coarse);
    CHECK(said_with(1e30F).ends_with(coarse));
    CHECK(said_with(1218) == "");
    CHECK(said_with(0.25F) == "");
}

TEST_CASE("a driver's process that reads nothing is waited for no longer than the limit") {
    const served_by serving([](int) { ::pause(); });
    driver_sources large = lantern_light;
    large.fragment += std::string(8'000'000, ' '); // more than a socket holds
    const auto begin = std::chrono::steady_clock::now();
    CHECK(refusal_of([&] {
              driver_process(large, 1);
          }).starts_with("the shader: compiling took longer than 1.0 s and was stopped"));
    CHECK(std::chrono::steady_clock::now() - begin < std::chrono::seconds(30)); // and not for ever
}

TEST_CASE("a picture of another size than asked for is no picture") {
    for (const std::size_t values : {std::size_t{0}, std::size_t{3}, std::size_t{8}}) {
        static std::size_t sent = 0;
        sent = values;
        const served_by serving([](int socket) {
            answer_linking(socket, linked_program{});
            take_request(socket);
            writer to;
            draw_answer answer;
            answer.values.assign(sent, 1.0F);
            to.put(answer);
            send_answer(socket, to.bytes);
            ::pause();
        });
        driver_process driver(lantern_light, 5);
        CHECK(refusal_of([&] {
                  driver.draw(one_pixel());
              }).starts_with("the shader: drawing it made the driver's process answer what is no answer"));
    }
}

TEST_CASE("after a crash the next picture has a process of its own") {
    driver_process driver(lantern_light, 20);
    {
        const served_by serving([](int socket) {
            answer_linking(socket, linked_program{});
            take_request(socket);
            ::_exit(1);
        });
        driver_process other(lantern_light, 20);
        CHECK(refusal_of([&] {
                  other.draw(one_pixel());
              }).starts_with("the shader: drawing it ended the driver's process"));
        driver_server = serve_driver;
        CHECK(other.draw(one_pixel()).values == std::vector<float>{0.25F, 0.5F, 0.75F, 1.0F});
    }
    CHECK(driver.draw(one_pixel()).values == std::vector<float>{0.25F, 0.5F, 0.75F, 1.0F});
}
