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
/// The same in a process of its own, for files of strangers: a few kilobytes can take for ever, or gigabytes. The first
/// plan (".easel.json"). Throws std::runtime_error with a sentence.
std::optional<std::string> planAttachedTo(std::string_view pdf, const std::string& name);
/// What that process gives.
std::string packedAttachment(std::string_view pdf);

}  // namespace easel
