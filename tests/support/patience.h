// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

/// How many times longer a test may wait for what has a limit: sanitizers make the program three to twenty times
/// slower, and what they look for is not speed.
#if defined(__SANITIZE_ADDRESS__) || defined(__SANITIZE_THREAD__)
inline constexpr int kPatience = 8;
#else
inline constexpr int kPatience = 1;
#endif

/// What is waited for as long as Qt Test waits, or longer where sanitizers look on.
#define WAIT_VERIFY(what) QTRY_VERIFY_WITH_TIMEOUT(what, 5000 * kPatience)
#define WAIT_COMPARE(what, value) QTRY_COMPARE_WITH_TIMEOUT(what, value, 5000 * kPatience)
