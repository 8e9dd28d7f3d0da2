#include "plan/plan.h"

#include <array>
#include <utility>

namespace easel {
namespace {
constexpr std::array<const char*, kRoleCount> kRoles = {"key", "fill", "hair", "rim", "kicker", "background", "other"};
}

const Panel* Plan::panel(const std::string& id) const {
  for (const Panel& p : panels)
    if (p.id == id) return &p;
  return nullptr;
}
const Light* Plan::light(const std::string& id) const {
  for (const Light& l : lights)
    if (l.id == id) return &l;
  return nullptr;
}
Light* Plan::light(const std::string& id) { return const_cast<Light*>(std::as_const(*this).light(id)); }

const Light* Plan::key() const {
  for (const Light& l : lights)
    if (l.role == Role::Key) return &l;
  return nullptr;
}

const char* roleName(Role role) { return kRoles[size_t(role)]; }
bool roleFromName(const std::string& name, Role& role) {
  for (size_t i = 0; i < kRoles.size(); ++i)
    if (name == kRoles[i]) {
      role = Role(i);
      return true;
    }
  return false;
}

}  // namespace easel
