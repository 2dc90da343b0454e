#include "program/driver_prison.hpp"

#include <array>
#include <csignal>
#include <cstdlib>
#include <string>
#include <vector>

#include <fcntl.h>
#include <linux/landlock.h>
#include <sched.h>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/syscall.h>
#include <unistd.h>

#if defined(YURVO_WITH_SECCOMP)
#include <cerrno>
#include <seccomp.h>
#endif

namespace yurvo::inline v0_1::program {

namespace {

std::uint8_t bit(confinement which) { return static_cast<std::uint8_t>(which); }

// What a shader may take beyond what the tool has: enough for a picture of 16384x16384 in floats.
[[maybe_unused]] constexpr rlim_t most_memory = rlim_t{12} << 30U;

bool limit(__rlimit_resource what, rlim_t most) {
    const rlimit both{most, most};
    return ::setrlimit(what, &both) == 0;
}

std::uint8_t limit_resources() {
    // A write beyond a file's greatest size then fails, as on a full disk.
    std::signal(SIGXFSZ, SIG_IGN);
    bool all = limit(RLIMIT_CORE, 0) && limit(RLIMIT_FSIZE, 0);
#if !defined(__SANITIZE_ADDRESS__) && !defined(__SANITIZE_THREAD__) // which take terabytes of addresses
    all = limit(RLIMIT_AS, most_memory) && all;
#endif
    return all ? bit(confinement::limits) : 0;
}

// Files: a set of rules, and what is added to them.
class file_rules {
    int set_ = -1;

    static constexpr std::uint64_t reading =
        LANDLOCK_ACCESS_FS_EXECUTE | LANDLOCK_ACCESS_FS_READ_FILE | LANDLOCK_ACCESS_FS_READ_DIR;
    static constexpr std::uint64_t everything =
        (LANDLOCK_ACCESS_FS_MAKE_SYM << 1U) - 1; // of the first version

  public:
    file_rules() {
        landlock_ruleset_attr asked{};
        asked.handled_access_fs = everything;
        // Every kernel that has Landlock knows its first field.
        set_ = static_cast<int>(
            ::syscall(SYS_landlock_create_ruleset, &asked, sizeof asked.handled_access_fs, 0U));
    }
    ~file_rules() {
        if (set_ >= 0) {
            ::close(set_);
        }
    }
    file_rules(const file_rules&) = delete;
    file_rules(file_rules&&) = delete;
    file_rules& operator=(const file_rules&) = delete;
    file_rules& operator=(file_rules&&) = delete;

    void allow(const char* path, bool writing = false) {
        const int beneath = ::open(path, O_PATH | O_CLOEXEC);
        if (beneath < 0) {
            return; // nothing there, nothing to allow
        }
        const bool folder = ::faccessat(beneath, ".", F_OK, 0) == 0;
        landlock_path_beneath_attr rule{};
        rule.parent_fd = beneath;
        rule.allowed_access = reading | (writing ? LANDLOCK_ACCESS_FS_WRITE_FILE : 0U);
        if (!folder) {
            rule.allowed_access &= ~std::uint64_t{LANDLOCK_ACCESS_FS_READ_DIR};
        }
        ::syscall(SYS_landlock_add_rule, set_, LANDLOCK_RULE_PATH_BENEATH, &rule, 0U);
        ::close(beneath);
    }
    bool hold() { return set_ >= 0 && ::syscall(SYS_landlock_restrict_self, set_, 0U) == 0; }
};

std::uint8_t close_files() {
    file_rules rules;
    for (const char* const path : {"/usr", "/lib", "/lib64", "/etc", "/opt", "/proc", "/sys", "/nix/store"}) {
        rules.allow(path);
    }
    rules.allow("/dev/null", true);
    rules.allow("/dev/dri", true);
    for (const char* const path : {"/dev/nvidiactl", "/dev/nvidia0", "/dev/nvidia-modeset", "/dev/kfd"}) {
        rules.allow(path, true);
    }
    // Where the person has said that a driver lies.
    for (const char* const name : {"LD_LIBRARY_PATH", "LIBGL_DRIVERS_PATH", "GBM_BACKENDS_PATH",
                                   "__EGL_VENDOR_LIBRARY_DIRS", "__EGL_VENDOR_LIBRARY_FILENAMES"}) {
        const char* const given = std::getenv(name); // NOLINT(concurrency-mt-unsafe): there is one thread
        std::string paths = given == nullptr ? "" : given;
        while (!paths.empty()) {
            const std::size_t end = paths.find(':');
            rules.allow(paths.substr(0, end).c_str());
            paths.erase(0, end == std::string::npos ? end : end + 1);
        }
    }
    return rules.hold() ? bit(confinement::files) : 0;
}

} // namespace

int close_all_but(int socket) {
    const int nothing = ::open("/dev/null", O_RDWR | O_CLOEXEC);
    // Beyond standard error, so that the null device does not take its place.
    const int kept = socket > STDERR_FILENO ? socket : ::fcntl(socket, F_DUPFD_CLOEXEC, STDERR_FILENO + 1);
    if (nothing >= 0) {
        ::dup2(nothing, STDIN_FILENO);
        ::dup2(nothing, STDOUT_FILENO);
        ::dup2(nothing, STDERR_FILENO);
    }
    ::close_range(STDERR_FILENO + 1, static_cast<unsigned>(kept) - 1, 0);
    ::close_range(static_cast<unsigned>(kept) + 1, ~0U, 0);
    return kept;
}

std::uint8_t confine_before_driver() {
    std::uint8_t held = limit_resources();
    if (::unshare(CLONE_NEWUSER | CLONE_NEWNET | CLONE_NEWIPC) == 0) { // where people may make namespaces
        held |= bit(confinement::network);
    }
    if (::prctl(PR_SET_NO_NEW_PRIVS, 1, 0, 0, 0) == 0) {
        held |= close_files();
    }
    return held;
}

#if defined(YURVO_WITH_SECCOMP)

std::uint8_t confine_before_shader() {
    const scmp_filter_ctx filter = seccomp_init(SCMP_ACT_ERRNO(EPERM));
    if (filter == nullptr) {
        return 0;
    }
    // What drivers do once they run: memory, threads, waiting, their devices, and the socket to the tool.
    // Names that an architecture does not have are left out.
    constexpr std::array always{"read",
                                "write",
                                "readv",
                                "writev",
                                "pread64",
                                "pwrite64",
                                "close",
                                "lseek",
                                "fstat",
                                "fcntl",
                                "dup",
                                "dup3",
                                "ioctl",
                                "mmap",
                                "mmap2",
                                "munmap",
                                "mprotect",
                                "mremap",
                                "madvise",
                                "msync",
                                "brk",
                                "memfd_create",
                                "ftruncate",
                                "rt_sigaction",
                                "rt_sigprocmask",
                                "rt_sigreturn",
                                "sigaltstack",
                                "poll",
                                "ppoll",
                                "select",
                                "pselect6",
                                "epoll_create1",
                                "epoll_ctl",
                                "epoll_wait",
                                "epoll_pwait",
                                "eventfd2",
                                "futex",
                                "futex_waitv",
                                "set_robust_list",
                                "get_robust_list",
                                "rseq",
                                "membarrier",
                                "set_tid_address",
                                "sched_yield",
                                "sched_getaffinity",
                                "sched_setaffinity",
                                "sched_getparam",
                                "sched_getscheduler",
                                "getcpu",
                                "nanosleep",
                                "clock_nanosleep",
                                "clock_gettime",
                                "clock_getres",
                                "gettimeofday",
                                "time",
                                "times",
                                "getpid",
                                "gettid",
                                "getppid",
                                "getuid",
                                "geteuid",
                                "getgid",
                                "getegid",
                                "getrandom",
                                "getrusage",
                                "uname",
                                "sysinfo",
                                "arch_prctl",
                                "exit",
                                "exit_group"};
    int failed = 0;
    // Where `how` is given, only with such an argument.
    const auto allow = [&](const char* name, const std::vector<scmp_arg_cmp>& how = {}) {
        const int call = seccomp_syscall_resolve_name(name);
        if (call != __NR_SCMP_ERROR) {
            failed |= seccomp_rule_add_array(filter, SCMP_ACT_ALLOW, call, static_cast<unsigned>(how.size()),
                                             how.data());
        }
    };
    const auto argument_is = [](unsigned which, scmp_datum_t value) {
        return scmp_arg_cmp{which, SCMP_CMP_EQ, value, 0};
    };
    for (const char* const name : always) {
        allow(name);
    }
    // Threads, and no processes. clone3() hides its flags from the filter: as if the kernel did not have it,
    // the C library takes clone().
    allow("clone", {scmp_arg_cmp{0, SCMP_CMP_MASKED_EQ, CLONE_THREAD, CLONE_THREAD}});
    seccomp_rule_add(filter, SCMP_ACT_ERRNO(ENOSYS), SCMP_SYS(clone3), 0);
    // Over the socket that there is, to nobody by address.
    allow("sendto", {argument_is(4, 0)});
    allow("recvfrom", {argument_is(4, 0)});
    allow("prctl", {argument_is(0, PR_SET_NAME)});
    allow("tgkill", {argument_is(0, static_cast<scmp_datum_t>(::getpid()))}); // abort()
    // Limits may be asked for, and no longer set.
    allow("prlimit64", {argument_is(0, 0), argument_is(2, 0)});
    failed |= seccomp_attr_set(filter, SCMP_FLTATR_CTL_TSYNC, 1); // threads that are there already, too
    const bool held = failed == 0 && seccomp_load(filter) == 0;
    seccomp_release(filter);
    return held ? bit(confinement::calls) : 0;
}

#else

std::uint8_t confine_before_shader() { return 0; }

#endif

} // namespace yurvo::inline v0_1::program
