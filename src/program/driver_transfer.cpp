#include "program/driver_transfer.hpp"

#include <algorithm>
#include <cerrno>
#include <chrono>
#include <cstdint>

#include <poll.h>
#include <sys/socket.h>

namespace yurvo::inline v0_1::program {

namespace {

// Until the socket may be read or written.
transfer wait_for(int socket, short what, moment until) {
    while (true) {
        int milliseconds = -1;
        if (until != forever) {
            const auto left =
                std::chrono::ceil<std::chrono::milliseconds>(until - moment::clock::now()).count();
            if (left <= 0) {
                return transfer::late;
            }
            milliseconds = static_cast<int>(std::min<std::int64_t>(left, 60'000)); // and once more after that
        }
        pollfd watched{socket, what, 0};
        const int ready = ::poll(&watched, 1, milliseconds);
        if (ready > 0) {
            return transfer::done;
        }
        if (ready < 0 && errno != EINTR) {
            return transfer::closed;
        }
    }
}

// All bytes, part by part: `pass(first, bytes left)` passes some of them over as recv() and send() do.
template <class Pass>
transfer pass_in_time(int socket, short what, unsigned long size, moment until, Pass pass) {
    unsigned long done = 0;
    while (done < size) {
        if (const transfer ready = wait_for(socket, what, until); ready != transfer::done) {
            return ready;
        }
        const ssize_t passed = pass(done, size - done);
        if (passed > 0) {
            done += static_cast<unsigned long>(passed);
        } else if (passed == 0 || (errno != EINTR && errno != EAGAIN)) {
            return transfer::closed;
        }
    }
    return transfer::done;
}

} // namespace

transfer send_in_time(int socket, const void* bytes, unsigned long size, moment until) {
    const auto* const from = static_cast<const char*>(bytes);
    return pass_in_time(socket, POLLOUT, size, until, [&](unsigned long at, unsigned long left) {
        return ::send(socket, from + at, left, MSG_NOSIGNAL | MSG_DONTWAIT);
    });
}

transfer receive_in_time(int socket, void* into, unsigned long size, moment until) {
    auto* const to = static_cast<char*>(into);
    return pass_in_time(socket, POLLIN, size, until, [&](unsigned long at, unsigned long left) {
        return ::recv(socket, to + at, left, MSG_DONTWAIT);
    });
}

bool send_message(int socket, const void* bytes, unsigned long size) {
    return send_in_time(socket, bytes, size, forever) == transfer::done;
}

bool receive_message(int socket, void* into, unsigned long size) {
    return receive_in_time(socket, into, size, forever) == transfer::done;
}

} // namespace yurvo::inline v0_1::program
