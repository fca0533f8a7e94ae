// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/end_signals.h"

#include <QSocketNotifier>

#include <csignal>
#include <fcntl.h>
#include <unistd.h>

namespace devices {
namespace {
int signalPipe[2] = {-1, -1}; // a signal handler reaches nothing but globals
}

void onEndSignals(QObject* context, std::function<void(int)> then) {
    if (::pipe2(signalPipe, O_CLOEXEC | O_NONBLOCK) != 0)
        return;
    auto* notifier = new QSocketNotifier(signalPipe[0], QSocketNotifier::Read, context);
    QObject::connect(notifier, &QSocketNotifier::activated, context, [then = std::move(then)] {
        char number = 0;
        if (::read(signalPipe[0], &number, 1) == 1)
            then(number);
    });
    struct sigaction action {};
    action.sa_handler = [](int number) {
        const char c = static_cast<char>(number);
        (void)!::write(signalPipe[1], &c, 1);
    };
    for (const int number : {SIGINT, SIGTERM, SIGHUP})
        ::sigaction(number, &action, nullptr);
}

} // namespace devices
