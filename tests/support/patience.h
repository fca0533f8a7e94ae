// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

/// How many times longer a test may wait for what has a limit: sanitizers make the program three to twenty times
/// slower, and what they look for is not speed.
#if defined(__SANITIZE_ADDRESS__) || defined(__SANITIZE_THREAD__)
inline constexpr int kPatience = 8;
#else
inline constexpr int kPatience = 1;
#endif
