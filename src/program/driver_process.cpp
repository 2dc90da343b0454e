#include "program/driver_process.hpp"

#include <algorithm>
#include <array>
#include <cerrno>
#include <chrono>
#include <cmath>
#include <csignal>
#include <cstring>
#include <ctime>
#include <mutex>
#include <stdexcept>
#include <thread>
#include <utility>

#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/socket.h>
#include <sys/wait.h>
#include <unistd.h>

#include "program/driver_child.hpp"
#include "program/driver_prison.hpp"
#include "program/driver_transfer.hpp"
#include "yurvo/program/program_renderer.hpp"
#include "yurvo/program/program_stopped.hpp"

namespace yurvo::inline v0_1::program {

namespace {

// Bytes of a driver's words, and of what it says of a program.
constexpr std::uint64_t most_of_words = std::uint64_t{1} << 20U;
constexpr std::uint64_t most_of_linking = std::uint64_t{1} << 24U;
// Of one block: more than any driver takes in a uniform block.
constexpr std::int32_t most_of_block = std::int32_t{1} << 28U;

// Whether numbers that say where something lies say so within what there is.
void name_as_written(linked_program& linked) {
    const auto without_ending = [](std::string& name) {
        for (const std::string_view ending : {of_fragment_stage, combined_again}) {
            for (std::size_t at = name.find(ending); at != std::string::npos; at = name.find(ending, at)) {
                name.erase(at, ending.size());
            }
        }
    };
    for (active_uniform& each : linked.uniforms) {
        without_ending(each.name);
    }
    for (active_block& each : linked.blocks) {
        without_ending(each.name);
    }
}

bool plausible(const linked_program& linked) {
    const auto uniform_fits = [&](const active_uniform& each) {
        return each.block < static_cast<std::int32_t>(linked.blocks.size()) &&
               (each.block < 0 || (each.offset >= 0 && each.matrix_stride >= 0 && each.array_stride >= 0));
    };
    const auto block_fits = [](const active_block& each) {
        return each.size >= 0 && each.size <= most_of_block;
    };
    return std::ranges::all_of(linked.uniforms, uniform_fits) &&
           std::ranges::all_of(linked.blocks, block_fits) && std::isfinite(linked.precision) &&
           linked.precision >= 0;
}

// What a driver's process does from its first moment.
[[noreturn]] void become_driver(int socket) {
    ::prctl(PR_SET_PDEATHSIG, SIGKILL);
    std::signal(SIGINT, SIG_DFL);
    driver_server(close_all_but(socket));
    ::_exit(3);
}

// A copy of this process from before it used a driver or threads, which makes the others; -1 where there is
// none. A fork of a process that uses a driver itself waits for locks of threads that it does not have.
std::mutex nursery_in_use;
int nursery = -1;

// One byte with a socket.
struct socket_message {
    char byte = 1;
    iovec part{&byte, 1};
    alignas(cmsghdr) std::array<char, CMSG_SPACE(sizeof(int))> control{};
    msghdr header{};

    socket_message() {
        header.msg_iov = &part;
        header.msg_iovlen = 1;
        header.msg_control = control.data();
        header.msg_controllen = control.size();
    }
};

bool send_socket(int over, int socket) {
    socket_message message;
    cmsghdr* const head = CMSG_FIRSTHDR(&message.header);
    head->cmsg_level = SOL_SOCKET;
    head->cmsg_type = SCM_RIGHTS;
    head->cmsg_len = CMSG_LEN(sizeof socket);
    std::memcpy(CMSG_DATA(head), &socket, sizeof socket);
    return ::sendmsg(over, &message.header, MSG_NOSIGNAL) == 1;
}

// -1 where the other end is closed.
int receive_socket(int over) {
    socket_message message;
    if (::recvmsg(over, &message.header, MSG_CMSG_CLOEXEC) != 1) {
        return -1;
    }
    int socket = -1;
    const cmsghdr* const head = CMSG_FIRSTHDR(&message.header);
    if (head != nullptr && head->cmsg_type == SCM_RIGHTS) {
        std::memcpy(&socket, CMSG_DATA(head), sizeof socket);
    }
    return socket;
}

[[noreturn]] void make_drivers(int requests) {
    ::prctl(PR_SET_PDEATHSIG, SIGKILL);
    std::signal(SIGCHLD, SIG_IGN); // nobody asks how they ended
    std::signal(SIGINT, SIG_IGN);
    while (true) {
        const int socket = receive_socket(requests);
        if (socket < 0) {
            ::_exit(0);
        }
        const pid_t child = ::fork();
        if (child == 0) {
            ::close(requests);
            std::signal(SIGCHLD, SIG_DFL);
            become_driver(socket);
        }
        ::close(socket);
        if (!send_message(requests, &child, sizeof child)) {
            ::_exit(0);
        }
    }
}

// A driver's process that serves the socket: by the nursery, or a copy of this process. -1 where there is
// none.
pid_t start_driver(int socket, int other_end) {
    const std::lock_guard hold(nursery_in_use);
    if (nursery >= 0) {
        pid_t child = -1;
        if (send_socket(nursery, socket) && receive_message(nursery, &child, sizeof child)) {
            return child;
        }
        ::close(nursery);
        nursery = -1;
    }
    const pid_t child = ::fork();
    if (child == 0) {
        ::close(other_end);
        become_driver(socket);
    }
    return child;
}

} // namespace

struct driver_process::parts {
    driver_sources sources;
    double limit;
    pid_t child = -1;
    int socket = -1;
    linked_program linked;

    parts(driver_sources input, double seconds) : sources(std::move(input)), limit(seconds) { start(); }
    ~parts() { stop(); }
    parts(const parts&) = delete;
    parts(parts&&) = delete;
    parts& operator=(const parts&) = delete;
    parts& operator=(parts&&) = delete;

    void stop() {
        if (socket >= 0) {
            ::close(socket);
            socket = -1;
        }
        if (child > 0) {
            ::kill(child, SIGKILL);
            ::waitpid(child, nullptr, 0);
            child = -1;
        }
    }

    void start() {
        int ends[2] = {-1, -1};
        if (::socketpair(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0, ends) != 0) {
            throw program_stopped({"the driver's process", 0, 0}, "could not be started",
                                  "more open files allowed");
        }
        child = start_driver(ends[1], ends[0]);
        if (child < 0) {
            ::close(ends[0]);
            ::close(ends[1]);
            throw program_stopped({"the driver's process", 0, 0}, "could not be started",
                                  "more processes allowed");
        }
        ::close(ends[1]);
        socket = ends[0];
        writer request;
        request.put(sources.vertex);
        request.put(sources.fragment);
        request.put(sources.vertex_as_written);
        request.put(sources.fragment_as_written);
        request.put(sources.old_dialect);
        request.put(sources.unsized);
        linked = read_answer<linked_program>(ask(request.bytes, "compiling", most_of_linking), "compiling");
        name_as_written(linked);
        if (!plausible(linked)) {
            answered_wrongly("compiling");
        }
        if (linked.failed_stage == 4) {
            const std::string why = linked.failure;
            stop();
            throw missing_error({"the system's OpenGL driver", 0, 0}, why,
                                "Debian's packages libegl1 and libgl1-mesa-dri bring one");
        }
    }

    // Sends a request and waits for the answer, no longer than the limit. `most`: bytes that it may have.
    std::vector<std::uint8_t> ask(const std::vector<std::uint8_t>& request, const std::string& doing,
                                  std::uint64_t most) {
        const moment until = moment::clock::now() + std::chrono::duration_cast<moment::duration>(
                                                        std::chrono::duration<double>(slowed_down * limit));
        allow_processor_time();
        const auto must = [&](transfer how) {
            if (how == transfer::late) {
                took_too_long(doing);
            }
            if (how == transfer::closed) {
                gave_up(doing);
            }
        };
        const std::uint64_t size = request.size();
        must(send_in_time(socket, &size, sizeof size, until));
        must(send_in_time(socket, request.data(), size, until));
        std::uint64_t answer_size = 0;
        must(receive_in_time(socket, &answer_size, sizeof answer_size, until));
        if (answer_size > most) {
            answered_wrongly(doing);
        }
        std::vector<std::uint8_t> answer(static_cast<std::size_t>(answer_size));
        must(receive_in_time(socket, answer.data(), answer.size(), until));
        return answer;
    }

    // What an answer says, as far as it can be an answer at all: it comes from where somebody's shader runs.
    template <class Answer>
    Answer read_answer(const std::vector<std::uint8_t>& bytes, const std::string& doing) {
        try {
            reader from(bytes);
            Answer result;
            from.get(result);
            from.expect_end();
            return result;
        } catch (const std::runtime_error&) {
            answered_wrongly(doing);
        }
    }

    // The processors' time that the child may use by the end of the next answer: all of them for the whole
    // limit. Beyond it the kernel ends the child, also where this process waits for nothing any more.
    void allow_processor_time() const {
        clockid_t used_clock{};
        timespec used{};
        if (::clock_getcpuclockid(child, &used_clock) != 0 || ::clock_gettime(used_clock, &used) != 0) {
            return; // it has ended, which the answer will show
        }
        const double most = slowed_down * limit * std::max(1U, std::thread::hardware_concurrency()) + 2;
        const rlimit seconds{static_cast<rlim_t>(used.tv_sec) + static_cast<rlim_t>(std::ceil(most)),
                             RLIM_INFINITY};
        ::prlimit(child, RLIMIT_CPU, &seconds, nullptr);
    }

    [[noreturn]] void took_too_long(const std::string& doing) {
        stop();
        std::string seconds = std::to_string(limit);
        seconds.erase(seconds.find_last_not_of('0') + 1);
        seconds += seconds.back() == '.' ? "0" : "";
        throw program_stopped({"the shader", 0, 0},
                              doing + " took longer than " + seconds + " s and was stopped",
                              "a loop that ends, or a greater `limit` in the program file");
    }

    [[noreturn]] void answered_wrongly(const std::string& doing) {
        stop();
        throw program_stopped(
            {"the shader", 0, 0}, doing + " it made the driver's process answer what is no answer",
            "no reading or writing beyond the ends of arrays, or another version of the driver");
    }

    [[noreturn]] void gave_up(const std::string& doing) {
        int status = 0;
        ::close(socket);
        socket = -1;
        ::waitpid(child, &status, 0);
        child = -1;
        const std::string how = WIFSIGNALED(status) ? std::string("ended the driver's process by signal ") +
                                                          std::to_string(WTERMSIG(status))
                                                    : std::string("ended the driver's process");
        throw program_stopped({"the shader", 0, 0}, doing + " it " + how + ", for want of memory it may be",
                              "smaller arrays, and no reading beyond their ends");
    }
};

driver_process::driver_process(const driver_sources& sources, double limit)
    : parts_(std::make_unique<parts>(sources, limit)) {}
driver_process::~driver_process() = default;
driver_process::driver_process(driver_process&&) noexcept = default;
driver_process& driver_process::operator=(driver_process&&) noexcept = default;

const linked_program& driver_process::linked() const { return parts_->linked; }

draw_answer driver_process::draw(const draw_request& wanted) {
    if (parts_->child < 0) {
        parts_->start();
    }
    writer request;
    request.put(wanted);
    const std::uint64_t values = std::uint64_t{4} * static_cast<std::uint64_t>(wanted.width) *
                                 static_cast<std::uint64_t>(wanted.height);
    auto answer = parts_->read_answer<draw_answer>(
        parts_->ask(request.bytes, "drawing", values * sizeof(float) + most_of_words), "drawing");
    if (answer.failure.empty() && answer.values.size() != values) {
        parts_->answered_wrongly("drawing");
    }
    return answer;
}

} // namespace yurvo::inline v0_1::program

namespace yurvo::inline v0_1 {

void prepare_driver_processes() {
    using namespace program;
    const std::lock_guard hold(nursery_in_use);
    int ends[2] = {-1, -1};
    if (nursery >= 0 || ::socketpair(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0, ends) != 0) {
        return; // drivers are then copies of this process
    }
    const pid_t child = ::fork();
    if (child == 0) {
        ::close(ends[0]);
        make_drivers(ends[1]);
    }
    ::close(ends[1]);
    if (child > 0) {
        nursery = ends[0];
    } else {
        ::close(ends[0]);
    }
}

} // namespace yurvo::inline v0_1
