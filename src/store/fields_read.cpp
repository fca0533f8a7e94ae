// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/project_fields.h"

namespace store {

#define MD_HERE(Type) template void fields<JsonReader, core::Type>(JsonReader&, core::Type&);
MD_FOR_OUTER_FIELDS(MD_HERE)

} // namespace store
