// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/model/fields/project_fields.h"
#include "store/json_archive.h"

// Reading and writing the outer structs is compiled once, in fields_read.cpp and fields_write.cpp.
#define MD_FOR_OUTER_FIELDS(DO)                                                                                        \
    DO(Part)                                                                                                           \
    DO(Change) DO(Revision) DO(Channel) DO(Run) DO(Load) DO(Target) DO(Brief) DO(NeedOverride) DO(Printer) DO(Project)
namespace core {
#define MD_NOT_HERE(Type)                                                                                              \
    extern template void fields<store::JsonReader, Type>(store::JsonReader&, Type&);                                   \
    extern template void fields<store::JsonWriter, const Type>(store::JsonWriter&, const Type&);
MD_FOR_OUTER_FIELDS(MD_NOT_HERE)
#undef MD_NOT_HERE
} // namespace core
