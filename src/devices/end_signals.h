// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <functional>

class QObject;

namespace devices {

/// The signals by which a system asks a program to end (SIGINT, SIGTERM, SIGHUP) become a call in the event loop, so
/// that what is under way ends like at any other end. @p then gets the signal's number. Once a program.
void onEndSignals(QObject* context, std::function<void(int)> then);

} // namespace devices
