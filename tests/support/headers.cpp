// SPDX-License-Identifier: GPL-3.0-or-later
// Only carries the precompiled headers of the tests (cmake/add_test.cmake).
