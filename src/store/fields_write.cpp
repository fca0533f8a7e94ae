// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/project_fields.h"

namespace core {

#define MD_HERE(Type) template void fields<store::JsonWriter, const Type>(store::JsonWriter&, const Type&);
MD_FOR_OUTER_FIELDS(MD_HERE)

} // namespace core
#undef MD_HERE
