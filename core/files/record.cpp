#include "files/record.h"

#include "spoken/say.h"

namespace easel {

Record Record::operator[](const char* name) const {
  const auto at = json_->is_object() ? json_->find(name) : json_->end();
  if (at == json_->end()) refuse(say("\"{}\" is missing.", name));
  return {*at, *limits_, path_ + "/" + name};
}

Record Record::operator[](size_t i) const {
  if (!json_->is_array() || i >= json_->size()) refuse(say("a list of at least {} is expected here.", i + 1));
  return {(*json_)[i], *limits_, path_ + "/" + std::to_string(i)};
}

void Record::refuse(const std::string& what) const {
  const std::string place = path_.empty() ? "/" : path_;
  throw FileError(say("This is not a usable {}, at {}: {}", translated(limits_->kind), foreign(place), what), place);
}

void Record::refuseType(Wanted wanted) const {
  refuse(wanted == Wanted::TrueOrFalse ? say("true or false is expected here.")
         : wanted == Wanted::Number    ? say("a number is expected here.")
         : wanted == Wanted::Text      ? say("a text is expected here.")
                                       : say("a value of another kind is expected here."));
}

}  // namespace easel
