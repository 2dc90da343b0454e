// messages: what goes between the tool and the child process in which the driver runs. Both are one program,
// so numbers are sent as they lie in memory.
#pragma once

#include <cstdint>
#include <cstring>
#include <stdexcept>
#include <string>
#include <type_traits>
#include <vector>

namespace yurvo::inline v0_1::program {

class writer {
  public:
    std::vector<std::uint8_t> bytes;

    template <class Value>
    requires std::is_trivially_copyable_v<Value>
    void put(const Value& value) {
        const auto* const from = reinterpret_cast<const std::uint8_t*>(&value);
        bytes.insert(bytes.end(), from, from + sizeof(Value));
    }
    template <class Value> void put(const std::vector<Value>& values) {
        put(static_cast<std::uint64_t>(values.size()));
        for (const Value& value : values) {
            put(value);
        }
    }
    void put(const std::vector<float>& values) { put_run(values.data(), values.size()); }
    void put(const std::vector<std::uint8_t>& values) { put_run(values.data(), values.size()); }
    void put(const std::string& text) { put_run(text.data(), text.size()); }
    template <class Value>
    requires requires(const Value& value, writer& to) { value.write(to); }
    void put(const Value& value) { value.write(*this); }

  private:
    template <class Value> void put_run(const Value* from, std::size_t count) {
        put(static_cast<std::uint64_t>(count));
        const auto* const begin = reinterpret_cast<const std::uint8_t*>(from);
        bytes.insert(bytes.end(), begin, begin + count * sizeof(Value));
    }
};

class reader {
    const std::vector<std::uint8_t>& bytes_;
    std::size_t at_ = 0;

    void take(void* into, std::size_t size) {
        if (size > bytes_.size() - at_) {
            throw std::runtime_error("a message was cut off");
        }
        if (size > 0) {
            std::memcpy(into, bytes_.data() + at_, size);
        }
        at_ += size;
    }
    std::size_t count_of(std::size_t each) {
        std::uint64_t count = 0;
        take(&count, sizeof count);
        if (count > (bytes_.size() - at_) / each) {
            throw std::runtime_error("a message was cut off");
        }
        return static_cast<std::size_t>(count);
    }

  public:
    explicit reader(const std::vector<std::uint8_t>& bytes) : bytes_(bytes) {}

    void expect_end() const {
        if (at_ != bytes_.size()) {
            throw std::runtime_error("a message was longer than what it says");
        }
    }

    template <class Value>
    requires std::is_trivially_copyable_v<Value>
    void get(Value& value) { take(&value, sizeof value); }
    template <class Value> void get(std::vector<Value>& values) {
        if constexpr (std::is_trivially_copyable_v<Value>) {
            values.resize(count_of(sizeof(Value)));
            take(values.data(), values.size() * sizeof(Value));
        } else {
            values.resize(
                count_of(sizeof(std::uint64_t))); // each begins with a text or list, so with its length
            for (Value& value : values) {
                get(value);
            }
        }
    }
    void get(std::string& text) {
        text.resize(count_of(1));
        take(text.data(), text.size());
    }
    template <class Value>
    requires requires(Value& value, reader& from) { value.read(from); }
    void get(Value& value) { value.read(*this); }
};

// A name that the linked program reads: one element of one uniform, in no block or in one.
struct active_uniform {
    std::string name;           // `u_lamps[2].position`
    std::uint32_t type = 0;     // as the driver numbers types
    std::int32_t location = -1; // outside blocks
    std::int32_t block = -1, offset = 0, matrix_stride = 0, array_stride = 0;
    std::uint8_t row_major = 0;
    std::uint8_t beyond_first = 0; // of an array that has no size, an element after the first

    void write(writer& to) const {
        to.put(name);
        to.put(type);
        to.put(location);
        to.put(block);
        to.put(offset);
        to.put(matrix_stride);
        to.put(array_stride);
        to.put(row_major);
        to.put(beyond_first);
    }
    void read(reader& from) {
        from.get(name);
        from.get(type);
        from.get(location);
        from.get(block);
        from.get(offset);
        from.get(matrix_stride);
        from.get(array_stride);
        from.get(row_major);
        from.get(beyond_first);
    }
};
struct active_attribute {
    std::string name;
    std::uint32_t type = 0;
    std::int32_t location = -1;

    void write(writer& to) const {
        to.put(name);
        to.put(type);
        to.put(location);
    }
    void read(reader& from) {
        from.get(name);
        from.get(type);
        from.get(location);
    }
};
struct active_block {
    std::string name;
    std::int32_t size = 0;
    std::uint8_t storage = 0; // a storage block instead of a uniform one

    void write(writer& to) const {
        to.put(name);
        to.put(size);
        to.put(storage);
    }
    void read(reader& from) {
        from.get(name);
        from.get(size);
        from.get(storage);
    }
};

// What came of compiling and linking.
struct linked_program {
    std::string failure;           // the driver's own words; empty where all went well
    std::uint8_t failed_stage = 0; // 1 vertex, 2 fragment, 3 linking, 4 the driver itself
    std::string driver;            // its name, for people
    std::int32_t subpixel_bits = 0;
    float precision = 1;                // see measure_precision()
    float angle = 0;                    // see measure_angles(); 0 where the program asks for none
    std::uint8_t failed_as_written = 0; // in the precisions of the source alone
    std::uint8_t confined = 0;          // bits of `confinement`: what held when the shader was seen first
    std::uint8_t other_precisions = 0;  // the program is also there in the precisions of its source
    std::uint8_t older_version = 0;     // GLSL 4.60, which the driver has not, was compiled as 4.50
    std::vector<active_attribute> attributes;
    std::vector<active_uniform> uniforms;
    std::vector<active_block> blocks;
    std::vector<active_attribute> outputs;     // of the fragment stage
    std::vector<std::string> inputs_unwritten; // by the vertex stage, though the fragment stage reads them

    void write(writer& to) const {
        to.put(failure);
        to.put(failed_stage);
        to.put(driver);
        to.put(subpixel_bits);
        to.put(precision);
        to.put(angle);
        to.put(failed_as_written);
        to.put(confined);
        to.put(other_precisions);
        to.put(older_version);
        to.put(attributes);
        to.put(uniforms);
        to.put(blocks);
        to.put(outputs);
        to.put(inputs_unwritten);
    }
    void read(reader& from) {
        from.get(failure);
        from.get(failed_stage);
        from.get(driver);
        from.get(subpixel_bits);
        from.get(precision);
        from.get(angle);
        from.get(failed_as_written);
        from.get(confined);
        from.get(other_precisions);
        from.get(older_version);
        from.get(attributes);
        from.get(uniforms);
        from.get(blocks);
        from.get(outputs);
        from.get(inputs_unwritten);
    }
};

struct uniform_value {
    std::int32_t location = -1;
    std::uint32_t type = 0;
    std::vector<float> values; // matrices column by column

    void write(writer& to) const {
        to.put(location);
        to.put(type);
        to.put(values);
    }
    void read(reader& from) {
        from.get(location);
        from.get(type);
        from.get(values);
    }
};
enum class number_kind : std::uint8_t { real, whole, natural };
struct attribute_values {
    std::int32_t location = -1, components = 3;
    number_kind kind = number_kind::real;
    std::vector<float> values; // for every corner of every triangle, or once for all of them

    void write(writer& to) const {
        to.put(location);
        to.put(components);
        to.put(kind);
        to.put(values);
    }
    void read(reader& from) {
        from.get(location);
        from.get(components);
        from.get(kind);
        from.get(values);
    }
};
struct texture_values {
    std::uint32_t sampler = 0; // the sampler's type, as the driver numbers types
    std::int32_t width = 1, height = 1;
    std::vector<float> values; // RGB or RGBA, lowest row first; one texel stands for all there are

    void write(writer& to) const {
        to.put(sampler);
        to.put(width);
        to.put(height);
        to.put(values);
    }
    void read(reader& from) {
        from.get(sampler);
        from.get(width);
        from.get(height);
        from.get(values);
    }
};
struct object_request {
    std::int32_t corners = 0;
    std::uint8_t mirrored = 0;
    std::vector<attribute_values> attributes;
    std::vector<uniform_value> uniforms;
    std::vector<std::vector<std::uint8_t>> blocks; // the bytes of each
    std::vector<std::int32_t> samplers;            // locations, and for each
    std::vector<std::int32_t> textures;            // which of the request's textures

    void write(writer& to) const {
        to.put(corners);
        to.put(mirrored);
        to.put(attributes);
        to.put(uniforms);
        to.put(blocks);
        to.put(samplers);
        to.put(textures);
    }
    void read(reader& from) {
        from.get(corners);
        from.get(mirrored);
        from.get(attributes);
        from.get(uniforms);
        from.get(blocks);
        from.get(samplers);
        from.get(textures);
    }
};
struct draw_request {
    std::int32_t width = 1, height = 1;
    float background[4] = {0, 0, 0, 1};
    std::uint8_t origin_below = 1; // windows begin at the picture's lower left, as OpenGL's; or upper left
    std::uint8_t y_down = 0;       // in clip space
    std::uint8_t zero_to_one = 0;  // depth in clip space
    std::uint8_t as_written = 0;   // in the precisions of the source, where they were made high
    std::vector<texture_values> textures;
    std::vector<object_request> objects;

    void write(writer& to) const {
        to.put(width);
        to.put(height);
        to.put(background);
        to.put(origin_below);
        to.put(y_down);
        to.put(zero_to_one);
        to.put(as_written);
        to.put(textures);
        to.put(objects);
    }
    void read(reader& from) {
        from.get(width);
        from.get(height);
        from.get(background);
        from.get(origin_below);
        from.get(y_down);
        from.get(zero_to_one);
        from.get(as_written);
        from.get(textures);
        from.get(objects);
    }
};
struct draw_answer {
    std::string failure;
    std::vector<float> values; // RGBA, top row first

    void write(writer& to) const {
        to.put(failure);
        to.put(values);
    }
    void read(reader& from) {
        from.get(failure);
        from.get(values);
    }
};

} // namespace yurvo::inline v0_1::program
