#include "program/driver_process.hpp"

#include <array>
#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstring>
#include <mutex>
#include <optional>

#include <poll.h>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/socket.h>
#include <sys/wait.h>
#include <unistd.h>

#include "program/driver_child.hpp"
#include "yurvo/program/program_stopped.hpp"

namespace yurvo::program {

bool send_message(int socket, const void* bytes, unsigned long size) {
    const auto* at = static_cast<const char*>(bytes);
    while (size > 0) {
        const ssize_t sent = ::send(socket, at, size, MSG_NOSIGNAL);
        if (sent <= 0) {
            if (sent < 0 && errno == EINTR) {
                continue;
            }
            return false;
        }
        at += sent;
        size -= static_cast<unsigned long>(sent);
    }
    return true;
}

bool receive_message(int socket, void* into, unsigned long size) {
    auto* at = static_cast<char*>(into);
    while (size > 0) {
        const ssize_t got = ::recv(socket, at, size, 0);
        if (got <= 0) {
            if (got < 0 && errno == EINTR) {
                continue;
            }
            return false;
        }
        at += got;
        size -= static_cast<unsigned long>(got);
    }
    return true;
}

namespace {

// What a shader may take beyond what the tool has: enough for a picture of 16384x16384 in floats.
[[maybe_unused]] constexpr rlim_t most_memory = rlim_t{12} << 30U;

// What a driver's process does from its first moment.
[[noreturn]] void become_driver(int socket) {
    ::prctl(PR_SET_PDEATHSIG, SIGKILL);
    const rlimit no_core{0, 0};
    ::setrlimit(RLIMIT_CORE, &no_core);
#if !defined(__SANITIZE_ADDRESS__) && !defined(__SANITIZE_THREAD__) // which take terabytes of addresses
    const rlimit memory{most_memory, most_memory};
    ::setrlimit(RLIMIT_AS, &memory);
#endif
    std::signal(SIGINT, SIG_DFL);
    serve_driver(socket);
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
        const std::vector<std::uint8_t> answer = ask(request.bytes, "compiling");
        reader from(answer);
        from.get(linked);
        if (linked.failed_stage == 4) {
            const std::string why = linked.failure;
            stop();
            throw missing_error({"the system's OpenGL driver", 0, 0}, why,
                                "Debian's packages libegl1 and libgl1-mesa-dri bring one");
        }
    }

    // Sends a request and waits for the answer, no longer than the limit.
    std::vector<std::uint8_t> ask(const std::vector<std::uint8_t>& request, const std::string& doing) {
        const auto begin = std::chrono::steady_clock::now();
        const auto left = [&] {
            const double seconds =
                std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
            return static_cast<int>(std::max(0.0, limit - seconds) * 1000);
        };
        const std::uint64_t size = request.size();
        if (!send_message(socket, &size, sizeof size) || !send_message(socket, request.data(), size)) {
            gave_up(doing);
        }
        std::uint64_t answer_size = 0;
        wait(left(), doing);
        if (!receive_message(socket, &answer_size, sizeof answer_size)) {
            gave_up(doing);
        }
        std::vector<std::uint8_t> answer(static_cast<std::size_t>(answer_size));
        if (!receive_message(socket, answer.data(), answer.size())) {
            gave_up(doing);
        }
        return answer;
    }

    void wait(int milliseconds, const std::string& doing) {
        pollfd watched{socket, POLLIN, 0};
        int ready = 0;
        do {
            ready = ::poll(&watched, 1, milliseconds);
        } while (ready < 0 && errno == EINTR);
        if (ready == 0) {
            stop();
            std::string seconds = std::to_string(limit);
            seconds.erase(seconds.find_last_not_of('0') + 1);
            seconds += seconds.back() == '.' ? "0" : "";
            throw program_stopped({"the shader", 0, 0},
                                  doing + " took longer than " + seconds + " s and was stopped",
                                  "a loop that ends, or a greater `limit` in the program file");
        }
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
    const std::vector<std::uint8_t> bytes = parts_->ask(request.bytes, "drawing");
    reader from(bytes);
    draw_answer answer;
    from.get(answer);
    return answer;
}

} // namespace yurvo::program

namespace yurvo {

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

} // namespace yurvo
