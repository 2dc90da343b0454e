// Files that are read whole, and files that appear whole or not at all.
#pragma once

#include <functional>
#include <string>

#pragma GCC visibility push(default)
namespace yurvo::inline v0_1 {

/// The bytes of a file (or a pipe). Throws yurvo::error where it cannot be read or is larger than `most`
/// bytes.
std::string read_whole(const std::string& path, std::size_t most = std::size_t{1} << 32U);

/// Calls write(temporary) with the name of a new file beside `path`, then renames it to `path`. Where
/// anything fails nothing is left behind, what was at `path` stays, and yurvo::error is thrown.
void write_whole(const std::string& path, const std::function<void(const std::string&)>& write);

/// The same for bytes at hand.
void write_whole(const std::string& path, const std::string& bytes);

/// Throws the error of write_whole() where it is known beforehand that it would: before long work is done.
void require_writable(const std::string& path);

/// A folder, made where it is missing. Throws yurvo::error.
void make_folder(const std::string& path);

/// Joins a name to the folder of another file; an absolute name stays as it is.
std::string beside(const std::string& file, const std::string& name);

} // namespace yurvo::inline v0_1
#pragma GCC visibility pop
