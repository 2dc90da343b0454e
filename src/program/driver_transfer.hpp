// driver_transfer: whole messages through a socket, as long as their time lasts.
#pragma once

#include <chrono>
#include <cstdint>

namespace yurvo::inline v0_1::program {

using moment = std::chrono::steady_clock::time_point;
inline constexpr moment forever = moment::max();

// `closed`: the other side is gone. `late`: the moment has come, and not all of the bytes.
enum class transfer : std::uint8_t { done, closed, late };

transfer send_in_time(int socket, const void* bytes, unsigned long size, moment until);
transfer receive_in_time(int socket, void* into, unsigned long size, moment until);

// However long it takes. False where the other side is gone.
bool send_message(int socket, const void* bytes, unsigned long size);
bool receive_message(int socket, void* into, unsigned long size);

} // namespace yurvo::inline v0_1::program
