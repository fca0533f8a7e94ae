// SPDX-License-Identifier: GPL-3.0-or-later
// Only carries precompiled headers that several targets share (modules.cmake, add_test.cmake).
