#include "model/file.hpp"

#include <atomic>
#include <cerrno>
#include <charconv>
#include <csignal>
#include <cstring>
#include <fcntl.h>
#include <mutex>
#include <set>
#include <sys/stat.h>
#include <unistd.h>

namespace whorl {
namespace {

namespace fs = std::filesystem;

// A file that is not yet in its place, in the folder of its target: .part-PROCESS-NUMBER
constexpr std::string_view part_name = ".part-";

[[noreturn]] void fail(const std::filesystem::path& path, const std::string& what, int error) {
    throw FileError("'" + path.string() + "' " + what + ": " + std::strerror(error) + ".");
}

class Descriptor {
public:
    explicit Descriptor(int fd) : fd_(fd) {}
    ~Descriptor() {
        if (fd_ >= 0) ::close(fd_);
    }
    Descriptor(const Descriptor&) = delete;
    Descriptor& operator=(const Descriptor&) = delete;
    int get() const { return fd_; }
    // errno of the closing, or 0
    int close() {
        const int error = ::close(fd_) != 0 ? errno : 0;
        fd_ = -1;
        return error;
    }

private:
    int fd_;
};

// Where the chain of symbolic links ends, whether or not there is a file.
fs::path target_of(fs::path path) {
    for (int link = 0; link < 40; ++link) {
        std::error_code none;
        if (!fs::is_symlink(path, none)) return path;
        const fs::path next = fs::read_symlink(path, none);
        if (none) return path;
        path = next.is_absolute() ? next : path.parent_path() / next;
    }
    fail(path, "can't be written", ELOOP);
}

// Takes away what processes that are gone have left in a folder; once a folder and process.
void clear_old_parts(const fs::path& folder) {
    static std::mutex mutex;
    static std::set<fs::path> cleared;
    {
        const std::lock_guard lock(mutex);
        if (!cleared.insert(folder).second) return;
    }
    std::error_code none;
    for (fs::directory_iterator it(folder, none), end; !none && it != end; it.increment(none)) {
        const std::string name = it->path().filename().string();
        if (!name.starts_with(part_name)) continue;
        pid_t owner = 0;
        const auto [rest, error] =
            std::from_chars(name.data() + part_name.size(), name.data() + name.size(), owner);
        if (error != std::errc() || rest == name.data() + name.size() || *rest != '-') continue;
        if (owner > 0 && ::kill(owner, 0) != 0 && errno == ESRCH) {
            std::error_code ignored;
            fs::remove(it->path(), ignored);
        }
    }
}

fs::path free_part(const fs::path& folder) {
    static std::atomic<int> serial{0};
    return folder / (std::string(part_name) + std::to_string(::getpid()) + "-" + std::to_string(++serial));
}

// errno, or 0
int write_all(int fd, std::string_view content) {
    while (!content.empty()) {
        const ssize_t n = ::write(fd, content.data(), content.size());
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) return errno;
        content.remove_prefix(static_cast<std::size_t>(n));
    }
    return 0;
}

} // namespace

std::string read_file(const fs::path& path, std::size_t limit) {
    const Descriptor file(::open(path.c_str(), O_RDONLY | O_CLOEXEC));
    if (file.get() < 0) fail(path, "can't be opened", errno);
    struct stat status {};
    if (::fstat(file.get(), &status) != 0) fail(path, "can't be read", errno);
    if (S_ISDIR(status.st_mode)) fail(path, "can't be read", EISDIR);
    const auto too_large = [&] {
        return FileError("'" + path.string() + "' is larger than " + std::to_string(limit >> 20) +
                         " MB, more than is read of such a file.");
    };
    if (status.st_size > 0 && static_cast<std::size_t>(status.st_size) > limit) throw too_large();
    std::string content;
    char buffer[65536];
    for (;;) {
        const ssize_t n = ::read(file.get(), buffer, sizeof buffer);
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) fail(path, "can't be read", errno);
        if (n == 0) break;
        content.append(buffer, static_cast<std::size_t>(n));
        if (content.size() > limit) throw too_large();
    }
    return content;
}

void write_file_atomically(const fs::path& path, std::string_view content) {
    if (path.empty()) throw FileError("No file name is given.");
    const fs::path target = target_of(path);
    struct stat old {};
    const bool there = ::stat(target.c_str(), &old) == 0;
    if (there && S_ISDIR(old.st_mode)) fail(path, "can't be written", EISDIR);
    if (there && ::access(target.c_str(), W_OK) != 0) fail(path, "can't be written", errno);
    if (there && !S_ISREG(old.st_mode)) { // can't be replaced by a file
        Descriptor device(::open(target.c_str(), O_WRONLY | O_CLOEXEC));
        if (device.get() < 0) fail(path, "can't be written", errno);
        if (const int error = write_all(device.get(), content)) fail(path, "can't be written", error);
        if (const int error = device.close()) fail(path, "can't be written", error);
        return;
    }
    const fs::path folder = target.has_parent_path() ? target.parent_path() : fs::path(".");
    clear_old_parts(folder);
    const fs::path part = free_part(folder);
    // nameless until it is whole, where the file system can do that
    bool named = false;
    int fd = ::open(folder.c_str(), O_TMPFILE | O_WRONLY | O_CLOEXEC, 0666);
    if (fd < 0 && (errno == EOPNOTSUPP || errno == EISDIR || errno == EINVAL)) {
        fd = ::open(part.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, 0666);
        named = true;
    }
    Descriptor file(fd);
    if (file.get() < 0) fail(path, "can't be written", errno);
    int error = write_all(file.get(), content);
    if (error == 0 && there && ::fchmod(file.get(), old.st_mode & 07777) != 0) error = errno;
    if (error == 0 && ::fsync(file.get()) != 0) error = errno;
    if (error == 0 && !named) {
        const std::string own = "/proc/self/fd/" + std::to_string(file.get());
        if (::linkat(AT_FDCWD, own.c_str(), AT_FDCWD, part.c_str(), AT_SYMLINK_FOLLOW) != 0)
            error = errno;
        else
            named = true;
    }
    if (const int closing = file.close(); error == 0) error = closing;
    if (error == 0 && ::rename(part.c_str(), target.c_str()) != 0) error = errno;
    if (error != 0) {
        if (named) ::unlink(part.c_str());
        fail(path, "can't be written", error);
    }
}

std::string with_plain_line_ends(std::string_view text) {
    std::string out;
    out.reserve(text.size());
    for (std::size_t i = 0; i < text.size(); ++i)
        if (text[i] != '\r')
            out += text[i];
        else if (i + 1 == text.size() || text[i + 1] != '\n')
            out += '\n';
    return out;
}

void survive_full_disks() {
    std::signal(SIGXFSZ, SIG_IGN);
}

} // namespace whorl
