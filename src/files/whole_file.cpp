#include "yurvo/files/whole_file.hpp"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <filesystem>
#include <system_error>
#include <vector>

#include "yurvo/scene/error.hpp"

namespace yurvo::inline v0_1 {

namespace fs = std::filesystem;

namespace {

class descriptor {
    int value_;

  public:
    explicit descriptor(int value) : value_(value) {}
    descriptor(const descriptor&) = delete;
    descriptor& operator=(const descriptor&) = delete;
    ~descriptor() {
        if (value_ >= 0) {
            ::close(value_);
        }
    }
    [[nodiscard]] int get() const { return value_; }
    // Closes now: the last chance of a full disk to say so.
    [[nodiscard]] bool close() {
        const int closed = ::close(value_);
        value_ = -1;
        return closed == 0;
    }
};

[[noreturn]] void fail(const std::string& path, const char* what, const std::string& remedy) {
    throw error({path, 0, 0}, std::string(what) + ": " + std::strerror(errno), remedy);
}

void write_all(int to, const std::string& bytes, const std::string& path) {
    std::size_t done = 0;
    while (done < bytes.size()) {
        const ssize_t written = ::write(to, bytes.data() + done, bytes.size() - done);
        if (written < 0 && errno == EINTR) {
            continue;
        }
        if (written <= 0) {
            fail(path, "cannot be written", "a folder with room and leave to write");
        }
        done += static_cast<std::size_t>(written);
    }
}

// Where a name that may be a link leads, so that the link survives.
std::string followed(const std::string& path) {
    fs::path at = path;
    std::error_code failed;
    constexpr int most_links = 40; // as the system allows
    for (int i = 0; i < most_links && fs::is_symlink(at, failed); ++i) {
        const fs::path target = fs::read_symlink(at, failed);
        if (failed) {
            break;
        }
        at = target.is_absolute() ? target : at.parent_path() / target;
    }
    return at.string();
}

// What is no file of bytes in words; empty for one that is.
std::string kind_of(const struct stat& of) {
    return S_ISREG(of.st_mode)    ? ""
           : S_ISDIR(of.st_mode)  ? "a folder"
           : S_ISFIFO(of.st_mode) ? "a pipe"
           : S_ISSOCK(of.st_mode) ? "a socket"
                                  : "a device";
}

// Where a file is to be: a name that is no link, what is there, and its folder.
struct place_of_file {
    std::string target;
    fs::file_status there;
    std::string folder;

    explicit place_of_file(const std::string& path) : target(followed(path)) {
        std::error_code ignored;
        there = fs::status(target, ignored);
        if (fs::is_directory(there)) {
            throw error({path, 0, 0}, "this is a folder", "the name of a file");
        }
        const fs::path name(target);
        folder = name.has_parent_path() ? name.parent_path().string() : ".";
    }
    // A device or a pipe has no whole to wait for.
    [[nodiscard]] bool is_of_bytes() const { return !fs::exists(there) || fs::is_regular_file(there); }
};

[[noreturn]] void fail_for_folder(const std::string& path) {
    fail(path, "cannot be written", "a folder that exists and may be written to");
}

// A file without a name, in the folder of the one that it is to become: what is stopped half-way leaves
// nothing. Not every file system has that.
class unnamed_file {
    descriptor held_;
    std::string folder_;

  public:
    unnamed_file(const std::string& folder, mode_t mode)
        : held_(::open(folder.c_str(), O_TMPFILE | O_WRONLY | O_CLOEXEC, mode)), folder_(folder) {}

    [[nodiscard]] bool there() const { return held_.get() >= 0; }
    // By which it can be opened while it has no other.
    [[nodiscard]] std::string name() const { return "/proc/self/fd/" + std::to_string(held_.get()); }
    // Gives it the name, in the place of a file that may have it. False where that cannot be done.
    [[nodiscard]] bool put_at(const std::string& target) const {
        const auto link = [&](const std::string& to) {
            return ::linkat(AT_FDCWD, name().c_str(), AT_FDCWD, to.c_str(), AT_SYMLINK_FOLLOW) == 0;
        };
        if (link(target)) {
            return true;
        }
        // A name that is taken can only be taken over by renaming.
        for (int i = 0; errno == EEXIST && i < 100; ++i) {
            const std::string between = folder_ + "/." + fs::path(target).filename().string() + "." +
                                        std::to_string(::getpid()) + "." + std::to_string(i);
            if (link(between)) {
                if (::rename(between.c_str(), target.c_str()) == 0) {
                    return true;
                }
                const int why = errno;
                ::unlink(between.c_str());
                errno = why;
                return false;
            }
        }
        return false;
    }
};

} // namespace

std::string read_whole(const std::string& path, std::size_t most) {
    // Nobody is waited for: a pipe without a writer would be.
    const descriptor file(::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK));
    struct stat known {};
    if (file.get() < 0 || ::fstat(file.get(), &known) != 0) {
        fail(path, "cannot be read", "a file that exists and may be read");
    }
    if (const std::string kind = kind_of(known); !kind.empty()) {
        throw error({path, 0, 0}, "this is " + kind, "a file");
    }
    std::string bytes;
    std::vector<char> chunk(std::size_t{1} << 16U);
    while (true) {
        const ssize_t got = ::read(file.get(), chunk.data(), chunk.size());
        if (got < 0 && errno == EINTR) {
            continue;
        }
        if (got < 0) {
            fail(path, "cannot be read", "a file that exists and may be read");
        }
        if (got == 0) {
            return bytes;
        }
        if (bytes.size() + static_cast<std::size_t>(got) > most) {
            throw error({path, 0, 0}, "the file is larger than " + std::to_string(most) + " bytes",
                        "a smaller one");
        }
        bytes.append(chunk.data(), static_cast<std::size_t>(got));
    }
}

void write_whole(const std::string& path, const std::function<void(const std::string&)>& write) {
    const place_of_file place(path);
    const std::string& target = place.target;
    if (!place.is_of_bytes()) {
        write(target);
        return;
    }
    const fs::path name(target);
    const mode_t mask = ::umask(0);
    ::umask(mask);
    if (const unnamed_file unnamed(place.folder, 0666 & ~mask); unnamed.there()) {
        write(unnamed.name());
        if (!unnamed.put_at(target)) {
            fail(path, "cannot be written", "a folder that may be written to");
        }
        return;
    }
    std::string temporary = (name.parent_path() / ("." + name.filename().string() + ".XXXXXX")).string();
    const int result = ::mkstemp(temporary.data());
    if (result < 0) {
        fail_for_folder(path);
    }
    struct remover {
        const std::string& name;
        bool keep = false;
        ~remover() {
            if (!keep) {
                ::unlink(name.c_str());
            }
        }
    } guard{temporary};
    {
        const descriptor closes(result);
        ::fchmod(result, 0666 & ~mask);
    }
    write(temporary);
    if (::rename(temporary.c_str(), target.c_str()) != 0) {
        fail(path, "cannot be written", "a folder that may be written to");
    }
    guard.keep = true;
}

void write_whole(const std::string& path, const std::string& bytes) {
    write_whole(path, [&](const std::string& temporary) {
        descriptor file(::open(temporary.c_str(), O_WRONLY | O_CLOEXEC));
        if (file.get() < 0) {
            fail(path, "cannot be written", "a file that may be written to");
        }
        write_all(file.get(), bytes, path);
        if (!file.close()) {
            fail(path, "cannot be written", "a folder with room");
        }
    });
}

void require_writable(const std::string& path) {
    const place_of_file place(path);
    if (place.is_of_bytes() && ::access(place.folder.c_str(), W_OK | X_OK) != 0) {
        fail_for_folder(path);
    }
}

void make_folder(const std::string& path) {
    std::error_code failed;
    fs::create_directories(path, failed);
    if (failed || !fs::is_directory(path)) {
        throw error({path, 0, 0},
                    "the folder cannot be made" + (failed ? ": " + failed.message() : std::string()),
                    "the name of a folder that may be made and written to");
    }
}

std::string beside(const std::string& file, const std::string& name) {
    return (fs::path(file).parent_path() / name).string();
}

} // namespace yurvo::inline v0_1
