#include "formats/picture_file.h"

#include <ImfChannelList.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfOutputFile.h>
#include <png.h>

#include <cstring>
#include <stdexcept>

#include "files/atomic_file.h"
#include "spoken/say.h"

namespace easel {

std::string pngText(int width, int height, const std::vector<std::uint8_t>& rgba) {
  png_image image{};
  image.version = PNG_IMAGE_VERSION;
  image.width = png_uint_32(width);
  image.height = png_uint_32(height);
  image.format = PNG_FORMAT_RGBA;
  png_alloc_size_t size = 0;
  std::string bytes;
  if (png_image_write_get_memory_size(image, size, 0, rgba.data(), 0, nullptr)) {
    bytes.resize(size);
    png_image_write_to_memory(&image, bytes.data(), &size, 0, rgba.data(), 0, nullptr);
    bytes.resize(size);
  }
  if (PNG_IMAGE_FAILED(image)) throw std::runtime_error(say("The picture could not be made: {}.", image.message));
  return bytes;
}

void writePng(const std::filesystem::path& file, int width, int height, const std::vector<std::uint8_t>& rgba) {
  writeFileAtomically(file, pngText(width, height, rgba));
}

void writeExr(const std::filesystem::path& file, int width, int height, const float* r, const float* g,
              const float* b) {
  try {
    Imf::Header header(width, height);
    header.compression() = Imf::ZIP_COMPRESSION;
    Imf::FrameBuffer planes;
    const float* data[3] = {r, g, b};
    const char* names[3] = {"R", "G", "B"};
    for (int c = 0; c < 3; ++c) {
      header.channels().insert(names[c], Imf::Channel(Imf::FLOAT));
      planes.insert(names[c], Imf::Slice(Imf::FLOAT, reinterpret_cast<char*>(const_cast<float*>(data[c])),
                                         sizeof(float), sizeof(float) * size_t(width)));
    }
    Imf::OutputFile out(file.c_str(), header);
    out.setFrameBuffer(planes);
    out.writePixels(height);
  } catch (const std::exception& e) {
    throw std::runtime_error(say("{} could not be saved: {}", file.string(), e.what()));
  }
}

Texture readPng(const std::filesystem::path& file) {
  png_image image{};
  image.version = PNG_IMAGE_VERSION;
  Texture t;
  if (png_image_begin_read_from_file(&image, file.c_str())) {
    image.format = PNG_FORMAT_RGBA;
    t.width = int(image.width);
    t.height = int(image.height);
    t.rgba.resize(PNG_IMAGE_SIZE(image));
    png_image_finish_read(&image, nullptr, t.rgba.data(), 0, nullptr);
  }
  if (PNG_IMAGE_FAILED(image)) {
    const std::string why = image.message;
    png_image_free(&image);
    throw std::runtime_error(say("The picture {} cannot be read: {}.", file.string(), why));
  }
  return t;
}

}  // namespace easel
