/* SPDX-License-Identifier: GPL-3.0-or-later
 * Preloaded into a program under test, it makes the disk misbehave below one folder:
 *   MD_FAIL_DIR   the folder
 *   MD_FAIL       "write:3"  the third call of that kind fails; kinds: open write fsync rename unlink link any
 *                 "kill:7"   the process is killed before the seventh call of any kind
 *                 "space:N"  after N written bytes the disk is full, in the middle of a write
 *   MD_FAIL_MARK  a file that is made when it struck
 */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <errno.h>
#include <fcntl.h>
#include <limits.h>
#include <signal.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

static long counted, written;

static int inside(const char* path) {
    const char* dir = getenv("MD_FAIL_DIR");
    char full[PATH_MAX];
    if (!dir || !path)
        return 0;
    if (path[0] != '/') {
        char here[PATH_MAX];
        if (!getcwd(here, sizeof here))
            return 0;
        snprintf(full, sizeof full, "%.2000s/%.2000s", here, path);
        path = full;
    }
    return strncmp(path, dir, strlen(dir)) == 0;
}

static int insideFd(int fd) {
    char link[64], path[PATH_MAX];
    snprintf(link, sizeof link, "/proc/self/fd/%d", fd);
    const ssize_t n = readlink(link, path, sizeof path - 1);
    if (n <= 0)
        return 0;
    path[n] = 0;
    return inside(path);
}

static void mark(void) {
    const char* file = getenv("MD_FAIL_MARK");
    if (!file)
        return;
    int (*real)(const char*, int, ...) = dlsym(RTLD_NEXT, "open");
    const int fd = real(file, O_CREAT | O_WRONLY | O_CLOEXEC, 0600);
    if (fd >= 0)
        close(fd);
}

/* 1 when this call is the one that is to fail. */
static int strikes(const char* kind) {
    const char* what = getenv("MD_FAIL");
    const char* colon = what ? strchr(what, ':') : NULL;
    if (!colon)
        return 0;
    const size_t length = (size_t)(colon - what);
    const int kill9 = length == 4 && strncmp(what, "kill", 4) == 0, any = length == 3 && strncmp(what, "any", 3) == 0;
    if (!kill9 && !any && (strlen(kind) != length || strncmp(what, kind, length) != 0))
        return 0;
    if (++counted != atol(colon + 1))
        return 0;
    mark();
    if (kill9)
        raise(SIGKILL);
    errno = ENOSPC;
    return 1;
}

static long room(void) {
    const char* what = getenv("MD_FAIL");
    return what && strncmp(what, "space:", 6) == 0 ? atol(what + 6) : -1;
}

#define REAL(result, name, ...) static result (*real)(__VA_ARGS__); if (!real) *(void**)&real = dlsym(RTLD_NEXT, #name)

static ssize_t limited(size_t size) {
    const long all = room();
    if (all < 0)
        return (ssize_t)size;
    const long left = all - written;
    if (left <= 0) {
        mark();
        errno = ENOSPC;
        return -1;
    }
    return (long)size > left ? left : (ssize_t)size;
}

ssize_t write(int fd, const void* data, size_t size) {
    REAL(ssize_t, write, int, const void*, size_t);
    if (!insideFd(fd))
        return real(fd, data, size);
    if (strikes("write"))
        return -1;
    const ssize_t n = limited(size);
    if (n < 0)
        return -1;
    const ssize_t done = real(fd, data, (size_t)n);
    written += done > 0 ? done : 0;
    return done;
}
ssize_t pwrite64(int fd, const void* data, size_t size, off64_t at) {
    REAL(ssize_t, pwrite64, int, const void*, size_t, off64_t);
    if (!insideFd(fd))
        return real(fd, data, size, at);
    if (strikes("write"))
        return -1;
    const ssize_t n = limited(size);
    if (n < 0)
        return -1;
    const ssize_t done = real(fd, data, (size_t)n, at);
    written += done > 0 ? done : 0;
    return done;
}
ssize_t pwrite(int fd, const void* data, size_t size, off_t at) { return pwrite64(fd, data, size, at); }

int fsync(int fd) {
    REAL(int, fsync, int);
    return insideFd(fd) && strikes("fsync") ? -1 : real(fd);
}
int fdatasync(int fd) {
    REAL(int, fdatasync, int);
    return insideFd(fd) && strikes("fsync") ? -1 : real(fd);
}
int rename(const char* from, const char* to) {
    REAL(int, rename, const char*, const char*);
    return inside(to) && strikes("rename") ? -1 : real(from, to);
}
int renameat2(int a, const char* from, int b, const char* to, unsigned flags) {
    REAL(int, renameat2, int, const char*, int, const char*, unsigned);
    return inside(to) && strikes("rename") ? -1 : real(a, from, b, to, flags);
}
int unlink(const char* path) {
    REAL(int, unlink, const char*);
    return inside(path) && strikes("unlink") ? -1 : real(path);
}
int link(const char* from, const char* to) {
    REAL(int, link, const char*, const char*);
    return inside(to) && strikes("link") ? -1 : real(from, to);
}

static int opened(const char* name, const char* path, int flags, mode_t mode) {
    int (*real)(const char*, int, ...) = dlsym(RTLD_NEXT, name);
    if ((flags & O_CREAT) && inside(path) && strikes("open"))
        return -1;
    return real(path, flags, mode);
}
int open(const char* path, int flags, ...) {
    va_list list;
    va_start(list, flags);
    const mode_t mode = flags & (O_CREAT | O_TMPFILE) ? va_arg(list, mode_t) : 0;
    va_end(list);
    return opened("open", path, flags, mode);
}
int open64(const char* path, int flags, ...) {
    va_list list;
    va_start(list, flags);
    const mode_t mode = flags & (O_CREAT | O_TMPFILE) ? va_arg(list, mode_t) : 0;
    va_end(list);
    return opened("open64", path, flags, mode);
}
