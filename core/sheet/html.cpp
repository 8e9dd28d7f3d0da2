#include "sheet/html.h"

#include <fmt/format.h>

#include <algorithm>

#include "formats/picture_file.h"
#include "spoken/say.h"

namespace easel {
namespace {

std::string safe(std::string_view text) {
  std::string out;
  for (const char c : text) switch (c) {
      case '&':
        out += "&amp;";
        break;
      case '<':
        out += "&lt;";
        break;
      case '>':
        out += "&gt;";
        break;
      case '"':
        out += "&quot;";
        break;
      case '\n':
        out += "<br>";
        break;
      default:
        out += c;
    }
  return out;
}

std::string base64(std::string_view bytes) {
  static constexpr char kLetters[] = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
  std::string out;
  for (size_t i = 0; i < bytes.size(); i += 3) {
    const size_t n = std::min<size_t>(3, bytes.size() - i);
    unsigned v = 0;
    for (size_t k = 0; k < 3; ++k) v = v << 8 | (k < n ? static_cast<unsigned char>(bytes[i + k]) : 0u);
    for (size_t k = 0; k < 4; ++k) out += k <= n ? kLetters[v >> (18 - 6 * k) & 63] : '=';
  }
  return out;
}

std::string image(const Picture& p, const std::string& words) {
  return fmt::format("<img alt=\"{}\" width=\"{}\" height=\"{}\" src=\"data:image/png;base64,{}\">", safe(words),
                     p.width, p.height, base64(pngText(p.width, p.height, p.rgba)));
}

struct Writer {
  std::string out;
  Ink ink;
  int drawings = 0;

  void put(const Heading& h) { out += fmt::format("<h{0}>{1}</h{0}>\n", h.level, safe(h.text)); }
  void put(const Sentence& s) { out += fmt::format("<p{}>{}</p>\n", s.soft ? " class=\"soft\"" : "", safe(s.text)); }
  void put(const Points& p) {
    out += "<dl>\n";
    for (const auto& one : p.all)
      out += fmt::format("<dt>{}</dt><dd>{}</dd>\n", boxes(one.boxes) + safe(one.mark), safe(one.text));
    out += "</dl>\n";
  }
  static std::string boxes(const std::vector<bool>& ticked) {
    std::string out;
    for (const bool on : ticked) out += fmt::format("<input type=\"checkbox\"{}> ", on ? " checked" : "");
    return out;
  }
  void put(const Table& t) {
    out += "<table><thead><tr>";
    for (const auto& c : t.columns) out += fmt::format("<th scope=\"col\">{}</th>", safe(c.name));
    out += "</tr></thead><tbody>\n";
    for (const auto& row : t.rows) {
      out += "<tr>";
      for (size_t c = 0; c < row.size(); ++c)
        out +=
            c == 0 ? fmt::format("<th scope=\"row\">{}</th>", safe(row[c])) : fmt::format("<td>{}</td>", safe(row[c]));
      out += "</tr>\n";
    }
    out += "</tbody></table>\n";
  }
  void put(const Prints& p) {
    out += "<div class=\"prints\">\n";
    for (const auto& one : p.all)
      out += fmt::format("<figure>{}<figcaption>{}</figcaption></figure>\n", image(one.picture, one.caption),
                         safe(one.caption));
    out += "</div>\n";
  }
  void put(const PictureAndFacts& p) {
    out += "<div class=\"beside\">" + image(p.picture, say("The predicted picture")) + "<dl>\n";
    for (const auto& [name, value] : p.facts) out += fmt::format("<dt>{}</dt><dd>{}</dd>\n", safe(name), safe(value));
    out += "</dl></div>\n";
  }
  void put(const Drawing& d) {
    Paper paper = paperOf("a4");
    paper.height = d.height(186) + 2;
    paper.width = 188;
    Canvas canvas(Canvas::Kind::Svg, paper, ink);
    d.draw(canvas, 1, 1, 186, paper.height - 2);
    std::string svg = canvas.finish();
    // Within a page there is no declaration, and names of glyphs are the page's: each drawing has its own.
    if (const size_t at = svg.find("<svg"); at != std::string::npos) svg.erase(0, at);
    const std::string mark = fmt::format("d{}-", ++drawings);
    for (const char* name : {"id=\"", "href=\"#", "url(#"}) {
      const std::string from = name;
      for (size_t at = 0; (at = svg.find(from, at)) != std::string::npos; at += from.size() + mark.size())
        svg.insert(at + from.size(), mark);
    }
    out += fmt::format("<figure role=\"img\" aria-label=\"{}\">{}</figure>\n", safe(d.caption), svg);
  }
  void put(const ByHand& b) {
    for (const std::string& w : b.words) out += fmt::format("<p class=\"hand\">{}</p>\n", safe(w));
  }
  void put(const CodeSquare& c) {
    Picture p{c.size + 8, c.size + 8, std::vector<std::uint8_t>(size_t(c.size + 8) * size_t(c.size + 8) * 4, 255)};
    for (int y = 0; y < c.size; ++y)
      for (int x = 0; x < c.size; ++x)
        if (c.at(x, y))
          for (size_t k = 0; k < 3; ++k) p.rgba[(size_t(y + 4) * size_t(p.width) + size_t(x + 4)) * 4 + k] = 0;
    out +=
        "<div class=\"code\">" + image(p, c.caption) + fmt::format("<p class=\"soft\">{}</p></div>\n", safe(c.caption));
  }
  void put(const NewPage&) { out += "<hr>\n"; }
};

}  // namespace

std::string sheetHtml(const Pages& pages, Ink ink) {
  const bool dim = ink == Ink::Dim;
  Writer w{
      fmt::format(
          "<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n<meta name=\"viewport\" "
          "content=\"width=device-width\">\n"
          "<title>{}</title>\n<style>\n"
          "body {{ font: 1rem/1.45 Inter, sans-serif; max-width: 60rem; margin: 1.5rem auto; padding: 0 1rem; color: "
          "{}; background: {}; }}\n"
          "h2 {{ color: {}; margin-top: 2rem; }} .soft, dt {{ color: {}; }}\n"
          "table {{ border-collapse: collapse; width: 100%; }} th, td {{ text-align: left; vertical-align: top; "
          "padding: .35rem .6rem .35rem 0; "
          "border-bottom: 1px solid {}; }}\n"
          "dl {{ display: grid; grid-template-columns: max-content 1fr; gap: .3rem 1rem; }} dd {{ margin: 0; }}\n"
          "img, svg {{ max-width: 100%; height: auto; }} figure {{ margin: 1rem 0; }}\n"
          ".prints {{ display: flex; flex-wrap: wrap; gap: .8rem; }} .prints figure {{ margin: 0; width: 10rem; }}\n"
          ".beside {{ display: flex; flex-wrap: wrap; gap: 1.5rem; align-items: start; }} .beside img {{ max-width: "
          "24rem; }}\n"
          ".hand {{ border-bottom: 1px solid {}; padding-top: 1rem; }} .code img {{ width: 14rem; image-rendering: "
          "pixelated; }}\n"
          "@media print {{ hr {{ break-after: page; border: 0; }} }}\n</style>\n</head>\n<body>\n",
          safe(pages.title), dim ? "#d1ccc4" : "#000", dim ? "#171716" : "#fff", dim ? "#e69a4d" : "#9e480d",
          dim ? "#a39e96" : "#555", dim ? "#52504d" : "#b8b8b8", dim ? "#a39e96" : "#555"),
      ink};
  for (const Block& b : pages.blocks) std::visit([&](const auto& one) { w.put(one); }, b);
  w.out += fmt::format("<p class=\"soft\">{}</p>\n</body>\n</html>\n", safe(pages.foot));
  return w.out;
}

}  // namespace easel
