#include "sheet/attached.h"

// Before the library's headers: which of its two kinds of pointers are meant.
#define POINTERHOLDER_TRANSITION 4
#include <qpdf/Buffer.hh>
#include <qpdf/JSON.hh>
#include <qpdf/Pl_Discard.hh>
#include <qpdf/QPDF.hh>
#include <qpdf/QPDFEFStreamObjectHelper.hh>
#include <qpdf/QPDFEmbeddedFileDocumentHelper.hh>
#include <qpdf/QPDFFileSpecObjectHelper.hh>
#include <qpdf/QPDFWriter.hh>
#include <stdexcept>

#include "files/apart.h"
#include "spoken/say.h"

namespace easel {
namespace {

constexpr size_t kMost = 32u << 20;

// Takes what a stream gives, as long as it is not too much: a few kilobytes can unpack to gigabytes.
class Bounded : public Pipeline {
 public:
  Bounded() : Pipeline("bounded", nullptr) {}
  void write(unsigned char const* data, size_t length) override {
    if (bytes.size() + length > kMost) throw std::runtime_error(say("What is attached to it is too large for a plan."));
    bytes.append(reinterpret_cast<const char*>(data), length);
  }
  void finish() override {}
  std::string bytes;
};

}  // namespace

std::string withAttached(const std::string& pdf, const std::vector<Attachment>& files) {
  try {
    QPDF doc;
    doc.setSuppressWarnings(true);
    doc.processMemoryFile("sheet", pdf.data(), pdf.size());
    QPDFEmbeddedFileDocumentHelper embedded(doc);
    for (const Attachment& a : files) {
      auto stream = QPDFEFStreamObjectHelper::createEFStream(doc, a.bytes);
      stream.setSubtype(a.mime);
      auto spec = QPDFFileSpecObjectHelper::createFileSpec(doc, a.name, stream);
      spec.setDescription(say("The plan that this sheet was made from"));
      embedded.replaceEmbeddedFile(a.name, spec);
    }
    QPDFWriter writer(doc);
    writer.setOutputMemory();
    writer.setDeterministicID(true);
    writer.write();
    const auto buffer = writer.getBufferSharedPointer();
    return {reinterpret_cast<const char*>(buffer->getBuffer()), buffer->getSize()};
  } catch (const std::exception& e) {
    throw std::runtime_error(say("The plan could not be attached to the sheet: {}", e.what()));
  }
}

std::optional<std::string> attachedTo(std::string_view pdf, std::string_view ending) {
  try {
    QPDF doc;
    doc.setSuppressWarnings(true);
    doc.processMemoryFile("sheet", pdf.data(), pdf.size());
    QPDFEmbeddedFileDocumentHelper embedded(doc);
    if (!embedded.hasEmbeddedFiles()) return {};
    for (auto& [key, spec] : embedded.getEmbeddedFiles()) {
      const std::string name = spec->getFilename();
      if (name.size() < ending.size() || name.compare(name.size() - ending.size(), ending.size(), ending) != 0)
        continue;
      Bounded out;
      spec->getEmbeddedFileStream().pipeStreamData(&out, 0, qpdf_dl_all);
      return out.bytes;
    }
    return {};
  } catch (const std::exception& e) {
    throw std::runtime_error(e.what());
  }
}

std::string packedAttachment(std::string_view pdf) {
  const auto plan = attachedTo(pdf, ".easel.json");
  return plan ? "+" + *plan : "-";
}

std::optional<std::string> planAttachedTo(std::string_view pdf, const std::string& name) {
  ApartLimits limits;
  limits.advice = say("Open the plan's own file.");
  const std::string got = readApart("pdf", pdf, name, limits);
  if (got.empty() || got.front() != '+') return {};
  return got.substr(1);
}

}  // namespace easel
