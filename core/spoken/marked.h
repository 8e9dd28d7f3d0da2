// A text of a table that is said later, through translated(): marked where it stands, so that translators get it.
#pragma once

namespace easel {

constexpr const char* marked(const char* english) { return english; }

}  // namespace easel
