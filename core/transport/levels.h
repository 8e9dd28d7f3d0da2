// Functions whose loops work on many numbers at once are compiled twice, for every 64-bit processor and for those with
// 256-bit arithmetic (level x86-64-v3 of the System V psABI); which one runs is settled when the program starts.
#pragma once

// Sanitizers come before the choice is made, and the other compiler spells it otherwise.
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && !defined(__SANITIZE_ADDRESS__) && \
    !defined(__SANITIZE_THREAD__)
#define EASEL_EACH_LEVEL __attribute__((target_clones("arch=x86-64-v3", "default")))
#else
#define EASEL_EACH_LEVEL
#endif
// For what those call: it must become part of both.
#define EASEL_INSIDE inline __attribute__((always_inline))
// Before a loop whose rounds do not touch each other's numbers, which the compiler cannot know of pointers.
#if defined(__clang__)
#define EASEL_AT_ONCE
#else
#define EASEL_AT_ONCE _Pragma("GCC ivdep")
#endif
