// A plan within a PDF: attached, so that the sheet opens as what it was made from.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace easel {

struct Attachment {
  std::string name, mime, bytes;
};
/// The PDF with the files attached. Throws std::runtime_error.
std::string withAttached(const std::string& pdf, const std::vector<Attachment>& files);
/// Of a PDF, also a foreign one: the first attached file whose name ends so; empty when there is none. Throws
/// std::runtime_error when it is no PDF or is damaged, in the library's words, which may be the file's; refuses
/// attachments of more than 32 MB.
std::optional<std::string> attachedTo(std::string_view pdf, std::string_view ending);

}  // namespace easel
