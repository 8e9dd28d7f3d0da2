// Photometry files: ANSI/IES LM-63 (1986, 1991, 1995, 2002, 2019 text form), read and written.
//
// Type C photometry only (what lamps and reflectors are measured in). Lengths in metres whatever the file uses. What is
// wrong is said with the line it stands in.
#pragma once

#include <filesystem>
#include <map>
#include <memory>
#include <stdexcept>
#include <string>
#include <string_view>

#include "gear/kit.h"

namespace easel {

struct IesFile {
  std::map<std::string, std::string> keywords;  ///< "LUMINAIRE" -> text, without the brackets
  double lumens = 0;                            ///< of all lamps; 0 or less: absolute photometry
  double width = 0, length = 0, height = 0;     ///< of the opening [m]; negative: round (LM-63)
  double watts = 0;
  std::shared_ptr<const AngularProfile> profile;  ///< multiplier and ballast factor applied
};

/// what(): "Line 14: ...". Nothing is kept of a file that is refused.
class IesError : public std::runtime_error {
 public:
  IesError(int line, const std::string& sentence);
  int line;
};

IesFile readIesText(std::string_view text);
/// Throws IesError, or std::runtime_error when the file cannot be read or is larger than 4 MB.
IesFile readIes(const std::filesystem::path& file);
/// LM-63-2002, one symmetric plane in steps of one degree or, of a measured modifier, its own angles; candela per
/// `lumens` of the bare head.
std::string writeIesText(const Modifier& modifier, double lumens, double watts);

/// A modifier of the given size that throws light as the file says. Its transmission is the file's efficiency (flux
/// over lamp lumens), or `absolute` for absolute photometry. Throws std::invalid_argument with a sentence.
Modifier modifierFromIes(const IesFile& file, const std::string& id, const std::string& name, double absolute = 0.8);
/// The known modifier with its light as the file says: profile and, unless the photometry is absolute, efficiency take
/// the place of what was guessed; size and what can be put on it stay. Throws as modifierFromIes().
Modifier measuredBy(Modifier known, const IesFile& file, const std::string& fileName);

}  // namespace easel
