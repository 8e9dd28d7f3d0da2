#include "formats/photograph.h"

#include <cmath>
#include <exiv2/exiv2.hpp>

#include "exposure/shutter.h"
#include "exposure/stops.h"
#include "files/atomic_file.h"
#include "files/json_front.h"
#include "spoken/say.h"

namespace easel {
namespace {

constexpr std::uintmax_t kLimit = 64u << 20;

// Its warnings about odd makers' notes are nobody's business here.
void quiet() {
  static const bool once = [] {
    Exiv2::LogMsg::setLevel(Exiv2::LogMsg::mute);
    return true;
  }();
  static_cast<void>(once);
}

std::optional<double> numberOf(const Exiv2::ExifData& data, const char* key) {
  const auto at = data.findKey(Exiv2::ExifKey(key));
  if (at == data.end() || at->count() < 1) return {};
  const Exiv2::Rational r = at->toRational();
  if (r.second == 0) return {};
  const double value = double(r.first) / double(r.second);
  return std::isfinite(value) && value > 0 ? std::optional(value) : std::nullopt;
}

Exiv2::Rational rational(double value) {
  return value >= 1 ? Exiv2::Rational(int(std::lround(value * 1000)), 1000)
                    : Exiv2::Rational(1000, int(std::lround(1000 / value)));
}

}  // namespace

PhotographSettings settingsOfPhotograph(const std::filesystem::path& file) {
  quiet();
  requireOrdinary(file);
  const std::string name = foreign(file.filename().string());
  std::error_code error;
  const auto size = std::filesystem::file_size(file, error);
  if (error) throw FileError(say("{} cannot be read.", name));
  if (size > kLimit)
    throw FileError(
        say("{} is larger than {} MB. Let the camera write a smaller picture beside it.", name, kLimit >> 20));
  PhotographSettings out;
  try {
    const auto image = Exiv2::ImageFactory::open(file.string());
    image->readMetadata();
    const Exiv2::ExifData& data = image->exifData();
    out.shutter = numberOf(data, "Exif.Photo.ExposureTime");
    out.aperture = numberOf(data, "Exif.Photo.FNumber");
    out.iso = numberOf(data, "Exif.Photo.ISOSpeedRatings");
  } catch (const std::exception& e) {
    throw FileError(say("{} is not a picture whose settings can be read: {}.", name, foreign(e.what())));
  }
  return out;
}

AgainstPlan against(const PhotographSettings& s, const Plan& plan, const Spelling& spelling) {
  AgainstPlan out;
  const Camera& cam = plan.camera;
  const double meant = cam.shootingAperture();
  const auto stops = [](double is, double wanted) { return stopsFromRatio(is / wanted); };
  // A third of a stop is a step of the camera; less is how it is written.
  constexpr double kStep = 0.17;
  if (s.aperture && s.iso) {
    out.flash = stops(*s.iso, cam.iso) - 2 * stops(*s.aperture, meant);
    if (s.shutter) out.room = *out.flash + stops(*s.shutter, cam.shutter);
  }
  if (s.aperture && std::abs(2 * stops(*s.aperture, meant)) > kStep)
    out.sentences.push_back(
        say("The lens was at {}; the plan says {}.", spelling.aperture(*s.aperture), spelling.aperture(meant)));
  if (s.iso && std::abs(stops(*s.iso, cam.iso)) > kStep)
    out.sentences.push_back(say("ISO {:.0f}; the plan says {:.0f}.", *s.iso, cam.iso));
  if (s.shutter && std::abs(stops(*s.shutter, cam.shutter)) > kStep)
    out.sentences.push_back(say("The shutter was at {}; the plan says {}: room light differs, flash does not.",
                                writeShutter(*s.shutter), writeShutter(cam.shutter)));
  if (out.sentences.empty())
    out.sentences.push_back(out.flash ? say("Aperture, shutter and ISO are those of the plan.")
                                      : say("The file has no camera settings."));
  else if (out.flash && std::abs(*out.flash) > kStep)
    out.sentences.push_back(say("By its settings {} stops of flash.", signedStops(*out.flash)));
  return out;
}

void writeSettings(const std::filesystem::path& file, const PhotographSettings& s) {
  quiet();
  try {
    requireOrdinary(file);
    const auto image = Exiv2::ImageFactory::open(file.string());
    image->readMetadata();
    Exiv2::ExifData& data = image->exifData();
    if (s.shutter) data["Exif.Photo.ExposureTime"] = rational(*s.shutter);
    if (s.aperture) data["Exif.Photo.FNumber"] = rational(*s.aperture);
    if (s.iso) data["Exif.Photo.ISOSpeedRatings"] = std::uint16_t(std::lround(*s.iso));
    image->writeMetadata();
  } catch (const std::exception& e) {
    throw FileError(say("{} cannot take its settings: {}.", foreign(file.filename().string()), foreign(e.what())));
  }
}

}  // namespace easel
