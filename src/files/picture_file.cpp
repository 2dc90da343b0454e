#include "yurvo/files/picture_file.hpp"

#include <algorithm>
#include <bit>
#include <charconv>
#include <cstdint>
#include <cstring>
#include <limits>
#include <string_view>

#include <png.h>

#include <ImfArray.h>
#include <ImfChannelList.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfIO.h>
#include <ImfInputFile.h>
#include <ImfOutputFile.h>

#include "yurvo/files/whole_file.hpp"
#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1 {

namespace {

constexpr int largest_side = 16384;
// Deflate, which PNG and EXR rest on, cannot shrink its input more than about 1032 times: a file that claims
// more pixels than that is broken, and no memory is taken for it.
constexpr std::uint64_t most_expansion = 1100;

[[noreturn]] void broken(const std::string& name, const std::string& why, const std::string& kind) {
    throw error({name, 0, 0}, "not a whole " + kind + " file: " + why, "a valid " + kind);
}

void require_size(const std::string& name, std::int64_t width, std::int64_t height) {
    if (width < 1 || height < 1 || width > largest_side || height > largest_side) {
        throw error({name, 0, 0}, "the picture is " + std::to_string(width) + "x" + std::to_string(height),
                    "sides from 1 to " + std::to_string(largest_side) + " pixels");
    }
}

void require_plausible(const std::string& name, std::uint64_t needed, std::uint64_t file_size,
                       const std::string& kind) {
    if (needed / most_expansion > file_size) {
        broken(name, "it claims far more pixels than it holds", kind);
    }
}

bool ends_in(const std::string& path, std::string_view ending) {
    return path.size() > ending.size() && path.ends_with(ending);
}

// ---- PNG
// ---------------------------------------------------------------------------------------------------

struct png_codes {
    int width = 0, height = 0;
    std::vector<std::uint8_t> codes; // RGBA
};

png_codes decode_png(const std::string& bytes, const std::string& name) {
    png_image image{};
    image.version = PNG_IMAGE_VERSION;
    if (png_image_begin_read_from_memory(&image, bytes.data(), bytes.size()) == 0) {
        broken(name, image.message, "PNG");
    }
    struct freer {
        png_image& image;
        ~freer() { png_image_free(&image); }
    } const guard{image};
    // Sixteen bits without a word on their curve are taken like eight.
    image.flags |= PNG_IMAGE_FLAG_16BIT_sRGB;
    require_size(name, image.width, image.height);
    // At the least one bit a pixel.
    require_plausible(name, static_cast<std::uint64_t>(image.width) * image.height / 8, bytes.size(), "PNG");
    image.format = PNG_FORMAT_RGBA;
    png_codes read{static_cast<int>(image.width), static_cast<int>(image.height), {}};
    read.codes.resize(PNG_IMAGE_SIZE(image));
    if (png_image_finish_read(&image, nullptr, read.codes.data(), 0, nullptr) == 0) {
        broken(name, image.message, "PNG");
    }
    return read;
}

// ---- PFM
// ---------------------------------------------------------------------------------------------------

// Bottom row first, little-endian (a negative scale says so).
std::string pfm_bytes(const picture& from) {
    std::string bytes = "PF\n" + std::to_string(from.width) + " " + std::to_string(from.height) + "\n-1.0\n";
    const std::size_t header = bytes.size();
    bytes.resize(header + from.pixels() * 12);
    char* to = bytes.data() + header;
    for (int y = from.height - 1; y >= 0; --y) {
        for (int x = 0; x < from.width; ++x, to += 12) {
            std::memcpy(to, &from.values[from.index(x, y)], 12);
        }
    }
    static_assert(std::endian::native == std::endian::little);
    return bytes;
}

class pfm_header {
    const std::string& bytes_;
    const std::string& name_;
    std::size_t at_ = 0;

  public:
    pfm_header(const std::string& bytes, const std::string& name) : bytes_(bytes), name_(name) {}

    std::string_view word() {
        const auto blank = [&](std::size_t i) {
            return bytes_[i] == ' ' || bytes_[i] == '\n' || bytes_[i] == '\r' || bytes_[i] == '\t';
        };
        while (at_ < bytes_.size() && blank(at_)) {
            ++at_;
        }
        const std::size_t begin = at_;
        while (at_ < bytes_.size() && !blank(at_) && at_ - begin < 64) {
            ++at_;
        }
        return std::string_view(bytes_).substr(begin, at_ - begin);
    }
    template <class Number> Number number(const char* what) {
        const std::string_view text = word();
        Number value{};
        const auto [end, failed] = std::from_chars(text.data(), text.data() + text.size(), value);
        if (failed != std::errc{} || end != text.data() + text.size()) {
            broken(name_, std::string("its header has no ") + what, "PFM");
        }
        return value;
    }
    // One blank ends the header.
    [[nodiscard]] std::size_t data() const { return at_ + 1; }
};

picture decode_pfm(const std::string& bytes, const std::string& name) {
    pfm_header header(bytes, name);
    const std::string_view kind = header.word();
    if (kind != "PF" && kind != "Pf") {
        broken(name, "it does not begin with PF or Pf", "PFM");
    }
    const std::size_t channels = kind == "PF" ? 3 : 1;
    const int width = header.number<int>("width");
    const int height = header.number<int>("height");
    const auto scale = header.number<double>("scale");
    require_size(name, width, height);
    const std::size_t row = static_cast<std::size_t>(width) * channels * 4;
    if (bytes.size() < header.data() + row * static_cast<std::size_t>(height)) {
        broken(name, "it ends before its last pixel", "PFM");
    }
    picture result(width, height);
    const char* from = bytes.data() + header.data();
    for (int y = height - 1; y >= 0; --y) {
        for (int x = 0; x < width; ++x) {
            float color[3] = {};
            for (std::size_t c = 0; c < 3; ++c) {
                std::uint32_t bits = 0;
                std::memcpy(&bits, from + 4 * (channels == 3 ? c : 0), 4);
                color[c] = std::bit_cast<float>(scale > 0 ? __builtin_bswap32(bits) : bits);
            }
            result.set(x, y, {color[0], color[1], color[2]}, 1.0F);
            from += channels * 4;
        }
    }
    return result;
}

// ---- EXR
// ---------------------------------------------------------------------------------------------------

void write_exr(const std::string& to, const picture& from) {
    Imf::Header header(from.width, from.height);
    header.compression() = Imf::ZIP_COMPRESSION;
    Imf::FrameBuffer buffer;
    const char* names[] = {"R", "G", "B", "A"};
    const std::size_t channels = has_transparency(from) ? 4 : 3;
    for (std::size_t c = 0; c < channels; ++c) {
        header.channels().insert(names[c], Imf::Channel(Imf::FLOAT));
        // The library takes a pointer to non-const even to write from.
        auto* base = reinterpret_cast<char*>(const_cast<float*>(from.values.data() + c)); // NOLINT
        buffer.insert(names[c], Imf::Slice(Imf::FLOAT, base, 16, 16 * static_cast<std::size_t>(from.width)));
    }
    Imf::OutputFile file(to.c_str(), header);
    file.setFrameBuffer(buffer);
    file.writePixels(from.height);
}

class bytes_stream : public Imf::IStream {
    const std::string& bytes_;
    std::uint64_t at_ = 0;

  public:
    bytes_stream(const std::string& bytes, const std::string& name) : IStream(name.c_str()), bytes_(bytes) {}
    bool read(char to[], int count) override {
        const auto wanted = static_cast<std::uint64_t>(count);
        if (at_ > bytes_.size() || wanted > bytes_.size() - at_) {
            throw std::runtime_error("it ends too early");
        }
        std::memcpy(to, bytes_.data() + at_, wanted);
        at_ += wanted;
        return at_ < bytes_.size();
    }
    std::uint64_t tellg() override { return at_; }
    void seekg(std::uint64_t to) override { at_ = to; }
};

picture decode_exr(const std::string& bytes, const std::string& name) {
    try {
        bytes_stream stream(bytes, name);
        Imf::InputFile file(stream, 0);
        const Imath::Box2i window = file.header().dataWindow();
        const std::int64_t width = std::int64_t{window.max.x} - window.min.x + 1;
        const std::int64_t height = std::int64_t{window.max.y} - window.min.y + 1;
        require_size(name, width, height);
        require_plausible(name, static_cast<std::uint64_t>(width * height), bytes.size(), "EXR");
        const Imf::ChannelList& channels = file.header().channels();
        const bool color = channels.findChannel("R") != nullptr && channels.findChannel("G") != nullptr &&
                           channels.findChannel("B") != nullptr;
        if (!color && channels.findChannel("Y") == nullptr) {
            throw error({name, 0, 0}, "the picture has no channels R, G and B, nor Y", "an EXR with colours");
        }
        picture result(static_cast<int>(width), static_cast<int>(height));
        Imf::FrameBuffer buffer;
        const char* names[] = {"R", "G", "B", "A"};
        const auto first = static_cast<std::int64_t>(window.min.x) + window.min.y * width;
        for (std::size_t c = 0; c < 4; ++c) {
            auto* base = reinterpret_cast<char*>(result.values.data() + c) - 16 * first; // NOLINT
            const char* channel = c < 3 && !color ? "Y" : names[c];
            if (c < 3 && !color && c > 0) {
                continue; // one slice for each channel; grey is spread below
            }
            buffer.insert(channel, Imf::Slice(Imf::FLOAT, base, 16, 16 * static_cast<std::size_t>(width), 1,
                                              1, c == 3 ? 1.0 : 0.0));
        }
        file.setFrameBuffer(buffer);
        file.readPixels(window.min.y, window.max.y);
        if (!color) {
            for (std::size_t i = 0; i < result.values.size(); i += 4) {
                result.values[i + 1] = result.values[i + 2] = result.values[i];
            }
        }
        return result;
    } catch (const error&) {
        throw;
    } catch (const std::exception& failed) {
        std::string why = failed.what();
        for (char& c : why) {
            c = c == '\n' ? ' ' : c;
        }
        broken(name, why, "EXR");
    }
}

} // namespace

void require_picture_name(const std::string& path) {
    if (!ends_in(path, ".png") && !ends_in(path, ".exr") && !ends_in(path, ".pfm")) {
        throw error({path, 0, 0}, "the name says no kind of picture",
                    "a name that ends in .png, .exr or .pfm");
    }
}

void write_picture(const std::string& path, const picture& from, encoding how) {
    require_picture_name(path);
    if (ends_in(path, ".png")) {
        write_whole(path, png_bytes(from, how));
    } else if (ends_in(path, ".pfm")) {
        write_whole(path, pfm_bytes(from));
    } else {
        write_whole(path, [&](const std::string& temporary) {
            try {
                write_exr(temporary, from);
            } catch (const std::exception& failed) {
                throw error({path, 0, 0}, std::string("cannot be written: ") + failed.what(),
                            "a folder with room");
            }
        });
    }
}

picture read_picture(const std::string& path, encoding how) {
    require_picture_name(path);
    const std::string bytes = read_whole(path);
    if (ends_in(path, ".pfm")) {
        return decode_pfm(bytes, path);
    }
    if (ends_in(path, ".exr")) {
        return decode_exr(bytes, path);
    }
    const png_codes read = decode_png(bytes, path);
    return picture_of(read.width, read.height, read.codes, how);
}

texture read_texture(const std::string& bytes, const std::string& name) {
    const png_codes read = decode_png(bytes, name);
    const picture decoded = picture_of(read.width, read.height, read.codes, encoding::srgb);
    texture result{read.width, read.height, {}};
    result.texels.reserve(decoded.pixels());
    for (int y = 0; y < decoded.height; ++y) {
        for (int x = 0; x < decoded.width; ++x) {
            result.texels.push_back(decoded.color(x, y));
        }
    }
    return result;
}

} // namespace yurvo::inline v0_1
