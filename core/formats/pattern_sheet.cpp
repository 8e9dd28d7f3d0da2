#include "formats/pattern_sheet.h"

#include <fmt/format.h>

#include <array>
#include <stdexcept>

#include "formats/sheet.h"
#include "spoken/say.h"

namespace easel {
// Ordered from bright to dark as the faces are; the letter says it without colour.
PatternSign signOf(FacePattern p) {
  static constexpr std::array<PatternSign, 8> all{{{'-', 0.5, 0.5, 0.5},
                                                   {'F', 0.93, 0.92, 0.88},
                                                   {'B', 0.87, 0.82, 0.66},
                                                   {'L', 0.84, 0.68, 0.47},
                                                   {'R', 0.72, 0.49, 0.33},
                                                   {'S', 0.47, 0.33, 0.29},
                                                   {'K', 0.24, 0.22, 0.24},
                                                   {'T', 0.55, 0.60, 0.64}}};
  return all[size_t(p)];
}

Picture patternSheet(const std::vector<std::pair<std::string, PatternMap>>& maps, int columns,
                     const std::string& title) {
  if (maps.empty()) throw std::runtime_error(say("There is no map for the sheet."));
  const PatternMap& first = maps.front().second;
  const int cell = 19, left = 40, foot = 26, head = 24, gap = 18;
  const int w = left + first.columns * cell, h = head + first.rows * cell + foot;
  const int rows = (int(maps.size()) + columns - 1) / columns, top = 46, legend = 34;
  const int width = gap + columns * (w + gap);
  Sheet sheet(width, top + rows * (h + gap) + legend, 0.96);
  sheet.ink(0.1, 0.1, 0.1);
  sheet.write(gap, 30, 17, width - 2 * gap, title);
  for (size_t n = 0; n < maps.size(); ++n) {
    const PatternMap& m = maps[n].second;
    const int x0 = gap + int(n) % columns * (w + gap), y0 = top + int(n) / columns * (h + gap);
    sheet.ink(0.1, 0.1, 0.1);
    sheet.write(x0 + left, y0 + 15, 13, w - left, maps[n].first);
    for (int r = 0; r < m.rows; ++r)
      for (int c = 0; c < m.columns; ++c) {
        const PatternAnalysis& p = m.at(c, r);
        const PatternSign a = signOf(p.pattern), b = p.next == FacePattern::None ? a : signOf(p.next);
        const double x = x0 + left + c * cell, y = y0 + head + r * cell;
        sheet.ink((a.red + b.red) / 2, (a.green + b.green) / 2, (a.blue + b.blue) / 2);
        sheet.fill(x, y, cell, cell);
        const bool dark = a.red + b.red + a.green + b.green < 1.9;
        sheet.ink(dark ? 1 : 0.1, dark ? 1 : 0.1, dark ? 1 : 0.1);
        if (p.next == FacePattern::None) {
          sheet.write(x + cell / 2.0, y + cell - 5, 12, cell, std::string(1, a.letter), 0.5);
        } else {
          const std::string both{char(std::tolower(a.letter)), char(std::tolower(b.letter))};
          sheet.write(x + cell / 2.0, y + cell - 6, 9, cell, both, 0.5);
        }
      }
    sheet.ink(0.1, 0.1, 0.1);
    for (int r = 0; r < m.rows; r += 2)
      sheet.write(x0 + left - 20, y0 + head + r * cell + cell - 5, 10, left,
                  fmt::format("{:.0f}", m.elevationMost - m.step * r), 0.5);
    for (int c = 0; c < m.columns; c += 2)
      sheet.write(x0 + left + (c + 0.5) * cell, y0 + head + m.rows * cell + 14, 10, 2 * cell,
                  fmt::format("{:.0f}", m.azimuthLeast + m.step * c), 0.5);
  }
  double x = gap;
  const int y = top + rows * (h + gap) + 8;
  for (int p = 1; p <= int(FacePattern::Top); ++p) {
    const PatternSign s = signOf(FacePattern(p));
    sheet.ink(s.red, s.green, s.blue);
    sheet.fill(x, y - 6, 16, 16);
    sheet.ink(0.1, 0.1, 0.1);
    const std::string text = fmt::format("{} {}", s.letter, patternName(FacePattern(p)));
    sheet.write(x + 22, y + 7, 12, 200, text);
    x += 110;
  }
  sheet.write(x, y + 7, 12, width - x,
              say("Across: degrees from the nose (+ to the sitter's left). Down: degrees over the face."));
  return sheet.picture();
}

}  // namespace easel
