/* Lets the n-th write, sync, read or rename below one folder fail, and from then on all or none of the
   writes: loaded before the C library by the test that asks what a failing disk does. */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <errno.h>
#include <stdarg.h>
#include <stdatomic.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/types.h>
#include <unistd.h>

static atomic_long count;

static long number(const char *name) {
    const char *text = getenv(name);
    return text ? atol(text) : 0;
}

/* Only once the switch is there: the start of the program is not meant. */
static int on(void) {
    const char *file = getenv("DISK_SWITCH");
    return file && access(file, F_OK) == 0;
}

static int ours(int fd) {
    const char *folder = getenv("DISK_FOLDER");
    char link[64], path[4096];
    if (!folder) return 0;
    snprintf(link, sizeof link, "/proc/self/fd/%d", fd);
    ssize_t length = readlink(link, path, sizeof path - 1);
    if (length <= 0) return 0;
    path[length] = 0;
    return strncmp(path, folder, strlen(folder)) == 0;
}

/* 1: this one fails. The kinds are told apart by a letter: w, s, r or m. */
static int fails(char kind) {
    const char *kinds = getenv("DISK_KINDS");
    if (!kinds || !strchr(kinds, kind) || !on()) return 0;
    long n = atomic_fetch_add(&count, 1) + 1, wanted = number("DISK_FAIL_AT");
    const char *told = getenv("DISK_COUNT");
    if (told) {
        FILE *(*plain)(const char *, const char *) = dlsym(RTLD_NEXT, "fopen");
        FILE *file = plain(told, "w");
        if (file) { fprintf(file, "%ld", n); fclose(file); }
    }
    if (!wanted) return 0;
    return number("DISK_FOR_GOOD") ? n >= wanted : n == wanted;
}

#define REAL(name) __typeof__(name) *real = (__typeof__(name) *)dlsym(RTLD_NEXT, #name)

ssize_t write(int fd, const void *bytes, size_t size) {
    REAL(write);
    if (ours(fd) && fails('w')) { errno = ENOSPC; return -1; }
    return real(fd, bytes, size);
}
ssize_t pwrite(int fd, const void *bytes, size_t size, off_t at) {
    REAL(pwrite);
    if (ours(fd) && fails('w')) { errno = ENOSPC; return -1; }
    return real(fd, bytes, size, at);
}
ssize_t pwrite64(int fd, const void *bytes, size_t size, off64_t at) {
    REAL(pwrite64);
    if (ours(fd) && fails('w')) { errno = ENOSPC; return -1; }
    return real(fd, bytes, size, at);
}
int fsync(int fd) {
    REAL(fsync);
    if (ours(fd) && fails('s')) { errno = EIO; return -1; }
    return real(fd);
}
int fdatasync(int fd) {
    REAL(fdatasync);
    if (ours(fd) && fails('s')) { errno = EIO; return -1; }
    return real(fd);
}
ssize_t read(int fd, void *bytes, size_t size) {
    REAL(read);
    if (ours(fd) && fails('r')) { errno = EIO; return -1; }
    return real(fd, bytes, size);
}
ssize_t pread(int fd, void *bytes, size_t size, off_t at) {
    REAL(pread);
    if (ours(fd) && fails('r')) { errno = EIO; return -1; }
    return real(fd, bytes, size, at);
}
ssize_t pread64(int fd, void *bytes, size_t size, off64_t at) {
    REAL(pread64);
    if (ours(fd) && fails('r')) { errno = EIO; return -1; }
    return real(fd, bytes, size, at);
}
int rename(const char *from, const char *to) {
    REAL(rename);
    const char *folder = getenv("DISK_FOLDER");
    if (folder && strncmp(to, folder, strlen(folder)) == 0 && fails('m')) { errno = EIO; return -1; }
    return real(from, to);
}
