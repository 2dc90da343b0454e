#include <algorithm>
#include <atomic>
#include <cstdint>
#include <cstring>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include <zlib.h>

#include "pipeline/parallel.hpp"
#include "yurvo/files/picture_file.hpp"
#include "yurvo/picture/screen_codes.hpp"
#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1 {

namespace {

// Rows are deflated in bands, each on a thread of its own, and put together to one stream; zlib and libpng
// have but one thread. The bands are the same whatever the number of threads, and so are the bytes.
constexpr std::size_t band_bytes = std::size_t{1} << 18U; // of rows: some bands a thread in a usual picture
constexpr int rows_at_once = 16;

[[noreturn]] void no_memory() {
    throw error({"PNG", 0, 0}, "no memory is left", "a picture that fits in memory");
}

void put_number(std::string& to, std::uint32_t number) {
    for (const unsigned shift : {24U, 16U, 8U, 0U}) {
        to += static_cast<char>(static_cast<unsigned char>(number >> shift));
    }
}

const Bytef* as_bytes(std::string_view text) { return reinterpret_cast<const Bytef*>(text.data()); } // NOLINT

// One chunk: its length, kind, data and sum (PNG, third edition, 5.3).
void put_chunk(std::string& to, std::string_view kind, std::string_view data) {
    put_number(to, static_cast<std::uint32_t>(data.size()));
    const std::size_t begin = to.size();
    to.append(kind).append(data);
    const std::string_view summed = std::string_view(to).substr(begin);
    put_number(to, static_cast<std::uint32_t>(crc32_z(0, as_bytes(summed), summed.size())));
}

// A part of a stream of deflate (RFC 1951).
class deflater {
    z_stream stream_{};
    std::string bytes_;

  public:
    deflater() {
        // Quick, and still as every reader takes it: no filter, no long search.
        constexpr int quick = 3, largest_window = 15, usual_memory = 8;
        if (deflateInit2(&stream_, quick, Z_DEFLATED, -largest_window, usual_memory, Z_DEFAULT_STRATEGY) !=
            Z_OK) {
            no_memory();
        }
    }
    ~deflater() { deflateEnd(&stream_); }
    deflater(const deflater&) = delete;
    deflater(deflater&&) = delete;
    deflater& operator=(const deflater&) = delete;
    deflater& operator=(deflater&&) = delete;

    // Z_SYNC_FLUSH leaves the part so that another may follow it, Z_FINISH ends the stream.
    void put(const std::vector<std::uint8_t>& from, int flush) {
        constexpr std::size_t room = 1U << 14U;
        stream_.next_in = const_cast<Bytef*>(from.data()); // NOLINT: zlib only reads it
        stream_.avail_in = static_cast<uInt>(from.size());
        do {
            const std::size_t begin = bytes_.size();
            bytes_.resize(begin + room);
            stream_.next_out = reinterpret_cast<Bytef*>(bytes_.data() + begin); // NOLINT
            stream_.avail_out = room;
            deflate(&stream_, flush); // ends in no error where there is room
            bytes_.resize(begin + room - stream_.avail_out);
        } while (stream_.avail_out == 0);
    }
    [[nodiscard]] std::string take() { return std::move(bytes_); }
};

struct deflated_band {
    std::string bytes;
    uLong sum = adler32_z(0, nullptr, 0); // of the rows as they are (RFC 1950)
    std::size_t count = 0;                // their bytes
};

deflated_band deflate_rows(const picture& from, encoding how, bool transparent, pipeline::band rows) {
    const auto width = static_cast<std::size_t>(from.width);
    const std::size_t channels = transparent ? 4 : 3;
    std::vector<std::uint8_t> codes(4 * width * rows_at_once);
    std::vector<std::uint8_t> plain;
    deflated_band result;
    deflater into;
    for (int top = rows.top; top < rows.bottom; top += rows_at_once) {
        const int bottom = std::min(rows.bottom, top + rows_at_once);
        codes_of_rows(from, top, bottom, how, codes.data());
        plain.resize((1 + channels * width) * static_cast<std::size_t>(bottom - top));
        const std::uint8_t* code = codes.data();
        std::uint8_t* to = plain.data();
        for (int y = top; y < bottom; ++y) {
            *to++ = 0; // no filter
            for (std::size_t x = 0; x < width; ++x, code += 4, to += channels) {
                std::memcpy(to, code, 3);
                if (transparent) {
                    to[3] = code[3];
                }
            }
        }
        result.sum = adler32_z(result.sum, plain.data(), plain.size());
        result.count += plain.size();
        const bool last_of_band = bottom == rows.bottom;
        into.put(plain, !last_of_band ? Z_NO_FLUSH : bottom == from.height ? Z_FINISH : Z_SYNC_FLUSH);
    }
    result.bytes = into.take();
    return result;
}

bool needs_alpha(const picture& image, int rows) {
    std::atomic<bool> found = false;
    pipeline::in_bands(image.height, rows, [&](pipeline::band each) {
        if (has_transparency_in_rows(image, each.top, each.bottom)) {
            found = true;
        }
    });
    return found;
}

} // namespace

std::string png_bytes(const picture& from, encoding how) {
    constexpr std::string_view signature = "\x89PNG\r\n\x1A\n";
    constexpr char eight_bits = 8, rgb = 2, rgba = 6;
    if (from.width < 1 || from.height < 1) {
        throw error({"PNG", 0, 0}, "the picture has no pixels", "one at least");
    }
    const std::size_t row_bytes = 1 + 4 * static_cast<std::size_t>(from.width);
    const int rows = static_cast<int>(std::max<std::size_t>(1, band_bytes / row_bytes));
    const bool transparent = needs_alpha(from, rows);

    std::vector<deflated_band> bands(static_cast<std::size_t>((from.height + rows - 1) / rows));
    pipeline::in_bands(from.height, rows, [&](pipeline::band each) {
        bands[static_cast<std::size_t>(each.top / rows)] = deflate_rows(from, how, transparent, each);
    });

    std::string header;
    put_number(header, static_cast<std::uint32_t>(from.width));
    put_number(header, static_cast<std::uint32_t>(from.height));
    header += eight_bits;
    header += transparent ? rgba : rgb;
    header.append(3, '\0');  // deflate, the usual filters, not interlaced
    std::size_t room = 1024; // for all that is no pixel
    for (const deflated_band& each : bands) {
        room += each.bytes.size() + 16;
    }
    std::string bytes;
    bytes.reserve(room);
    bytes = signature;
    put_chunk(bytes, "IHDR", header);
    put_chunk(bytes, "sRGB", std::string_view("\0", 1)); // to be shown as it looks
    // zlib's two bytes (RFC 1950: deflate, a window of 32 KiB, quickly done), the bands, the sum of all rows.
    put_chunk(bytes, "IDAT", "\x78\x5E");
    uLong sum = adler32_z(0, nullptr, 0);
    for (deflated_band& each : bands) {
        sum = adler32_combine(sum, each.sum, static_cast<z_off_t>(each.count));
        put_chunk(bytes, "IDAT", each.bytes);
        each.bytes = {};
    }
    std::string end;
    put_number(end, static_cast<std::uint32_t>(sum));
    put_chunk(bytes, "IDAT", end);
    put_chunk(bytes, "IEND", "");
    return bytes;
}

} // namespace yurvo::inline v0_1
