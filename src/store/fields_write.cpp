// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/project_fields.h"

namespace store {

#define MD_HERE(Type) template void fields<JsonWriter, const core::Type>(JsonWriter&, const core::Type&);
MD_FOR_OUTER_FIELDS(MD_HERE)

} // namespace store
