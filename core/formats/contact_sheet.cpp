#include "formats/contact_sheet.h"

#include <algorithm>
#include <stdexcept>

#include "formats/sheet.h"
#include "spoken/say.h"

namespace easel {

Picture contactSheet(const std::vector<SeriesPicture>& series, const SheetText& text) {
  if (series.empty() || series.front().picture.rgba.empty())
    throw std::runtime_error(say("There is no picture for the sheet."));
  const int w = series.front().picture.width, h = series.front().picture.height;
  const double size = std::clamp(w / 18.0, 11.0, 28.0);
  const int gap = int(size * 1.2), foot = int(size * 3.0), head = int(size * 4.6);
  const int n = int(series.size());
  // One row while it is not absurdly long, then rows of even length.
  const int rows = n <= 6 ? 1 : (n + 5) / 6, columns = (n + rows - 1) / rows;
  const int width = columns * (w + gap) + gap;
  Sheet sheet(width, head + rows * (h + foot) + gap, 0.46);
  sheet.ink(1, 1, 1);
  sheet.write(gap, size * 1.9, size * 1.3, width - 2 * gap, text.title);
  sheet.write(gap, size * 3.6, size, width - 2 * gap, text.subtitle);
  for (int i = 0; i < n; ++i) {
    const SeriesPicture& p = series[size_t(i)];
    const int x = gap + i % columns * (w + gap), y = head + i / columns * (h + foot);
    if (p.picture.width == w && p.picture.height == h) sheet.put(x, y, p.picture);
    sheet.write(x, y + h + size * 1.25, size * 1.05, w, p.caption);
    sheet.write(x, y + h + size * 2.4, size * 0.85, w, p.reading.empty() ? std::string() : "face reads " + p.reading);
  }
  return sheet.picture();
}

}  // namespace easel
