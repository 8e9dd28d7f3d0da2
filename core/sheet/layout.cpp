#include "sheet/layout.h"

#include <algorithm>
#include <cmath>

#include "spoken/say.h"

namespace easel {
namespace {

using Tone = Canvas::Tone;

// Goes through the blocks once, on a canvas that knows widths; where a page is full, `turn` gives the next.
struct Layout {
  const Pages& pages;
  const Paper& paper;
  Canvas* canvas;
  std::function<Canvas*()> turn;
  double y = 0;
  int page = 1;

  double left() const { return paper.margin; }
  double wide() const { return paper.width - 2 * paper.margin; }
  double foot() const { return paper.height - paper.margin - 1.6 * small(); }
  double body() const { return paper.text; }
  double small() const { return std::max(2.4, 0.8 * paper.text); }
  double line() const { return 1.32 * paper.text; }

  void head() {
    y = paper.margin;
    canvas->tone(Tone::Soft);
    const double size = small();
    const auto title = canvas->wrapped(size, pages.title, wide() - 2 * size);
    canvas->text(left(), y + size, size, title.front() + (title.size() > 1 ? " ..." : ""));
    y += 1.7 * size;
    canvas->tone(Tone::Faint);
    canvas->line(left(), y, left() + wide(), y, 0.2);
    y += 0.6 * body();
    canvas->tone(Tone::Soft);
    canvas->text(paper.width - paper.margin, paper.height - paper.margin, size, std::to_string(page), 1);
    const auto under = canvas->wrapped(size, pages.foot, wide() - 5 * size);
    if (!under.front().empty())
      canvas->text(left(), paper.height - paper.margin, size, under.front() + (under.size() > 1 ? " ..." : ""));
    canvas->tone(Tone::Ink);
  }
  double top() const { return paper.margin + 1.7 * small() + 0.6 * body(); }
  bool fresh() const { return y <= top() + 0.01; }
  void next() {
    canvas = turn();
    ++page;
    head();
  }
  // So much room in one piece, or a new page.
  void need(double height) {
    if (y + height > foot() && !fresh()) next();
  }

  // Lines from x, each on its own; the first stands at the next line's height.
  void lines(double x, const std::vector<std::string>& all, double size, FontWeight weight = FontWeight::Regular) {
    for (const std::string& l : all) {
      need(1.32 * size);
      canvas->text(x, y + size, size, l, 0, weight);
      y += 1.32 * size;
    }
  }

  void put(const Heading& h) {
    const double size = h.level == 1 ? 1.7 * body() : h.level == 2 ? 1.15 * body() : body();
    const auto all = canvas->wrapped(size, h.text, wide(), FontWeight::Bold);
    // A heading does not stand alone at the foot.
    need(double(all.size()) * 1.32 * size + body() + std::max(3 * line(), following_));
    if (!fresh()) y += 0.5 * body();
    if (h.level == 2) canvas->tone(Tone::Accent);
    lines(left(), all, size, FontWeight::Bold);
    canvas->tone(Tone::Ink);
    y += 0.25 * body();
  }
  void put(const Sentence& s) {
    if (s.soft) canvas->tone(Tone::Soft);
    lines(left(), canvas->wrapped(body(), s.text, wide()), body());
    canvas->tone(Tone::Ink);
    y += 0.3 * body();
  }
  void put(const Points& p) {
    double indent = 0;
    const double box = 0.85 * body();
    for (const auto& one : p.all)
      indent = std::max(indent,
                        double(one.boxes.size()) * 1.6 * box + canvas->textWidth(body(), one.mark, FontWeight::Bold));
    indent = std::min(indent + 0.8 * body(), 0.35 * wide());
    for (const auto& one : p.all) {
      const auto all = canvas->wrapped(body(), one.text, wide() - indent);
      const auto mark = canvas->wrapped(body(), one.mark, indent - 0.3 * body(), FontWeight::Bold);
      const size_t rows = std::max(all.size(), mark.size());
      need(std::min<double>(double(rows), 4) * line());
      for (size_t i = 0; i < rows; ++i) {
        need(line());
        double x = left();
        for (size_t k = 0; i == 0 && k < one.boxes.size(); ++k, x += 1.6 * box) {
          const double top = y + body() - box + 0.1 * body();
          canvas->box(x, top, box, box, 0.25);
          if (one.boxes[k])
            canvas->path({{x + 0.2 * box, top + 0.5 * box},
                          {x + 0.42 * box, top + 0.75 * box},
                          {x + 0.85 * box, top + 0.2 * box}},
                         false, 0.45);
        }
        if (i < mark.size()) canvas->text(x, y + body(), body(), mark[i], 0, FontWeight::Bold);
        if (i < all.size()) canvas->text(left() + indent, y + body(), body(), all[i]);
        y += line();
      }
      y += 0.2 * body();
    }
    y += 0.3 * body();
  }

  void put(const Table& t) {
    if (paper.narrow) return cards(t);
    const double pad = 0.4 * body(), size = t.columns.size() > 8 ? 0.86 * body() : body();
    double shares = 0;
    for (const auto& c : t.columns) shares += c.share;
    const auto width = [&](size_t c) { return wide() * t.columns[c].share / shares; };
    const auto row = [&](const std::vector<std::string>& cells, FontWeight weight) {
      std::vector<std::vector<std::string>> wrapped;
      size_t most = 1;
      for (size_t c = 0; c < t.columns.size(); ++c) {
        wrapped.push_back(canvas->wrapped(size, c < cells.size() ? cells[c] : std::string(), width(c) - pad, weight));
        most = std::max(most, wrapped.back().size());
      }
      const double high = double(most) * 1.25 * size + 2 * pad;
      if (weight == FontWeight::Regular && y + high > foot() && !fresh()) {
        next();
        header(t, size, pad, width);
      }
      double x = left();
      for (size_t c = 0; c < wrapped.size(); ++c) {
        for (size_t i = 0; i < wrapped[c].size(); ++i)
          canvas->text(x, y + pad + size + double(i) * 1.25 * size, size, wrapped[c][i], 0,
                       c == 0 ? FontWeight::Bold : weight);
        x += width(c);
      }
      y += high;
      canvas->tone(Tone::Faint);
      canvas->line(left(), y, left() + wide(), y, 0.15);
      canvas->tone(Tone::Ink);
    };
    need(5 * line());
    header(t, size, pad, width);
    for (const auto& cells : t.rows) row(cells, FontWeight::Regular);
    y += 0.6 * body();
  }
  template <class Width>
  void header(const Table& t, double size, double pad, Width width) {
    canvas->tone(Tone::Soft);
    double x = left();
    size_t most = 1;
    for (size_t c = 0; c < t.columns.size(); ++c) {
      const auto name = canvas->wrapped(0.9 * size, t.columns[c].name, width(c) - pad);
      most = std::max(most, name.size());
      for (size_t i = 0; i < name.size(); ++i)
        canvas->text(x, y + pad + 0.9 * size + double(i) * 1.15 * size, 0.9 * size, name[i]);
      x += width(c);
    }
    y += double(most) * 1.15 * size + 2 * pad;
    canvas->line(left(), y, left() + wide(), y, 0.3);
    canvas->tone(Tone::Ink);
  }
  // What is too wide for the paper: each row a card, its first cell the heading.
  void cards(const Table& t) {
    double indent = 0;
    for (const auto& c : t.columns) indent = std::max(indent, canvas->textWidth(small(), c.name));
    indent = std::min(indent + body(), 0.38 * wide());
    for (const auto& cells : t.rows) {
      // A card that fits a page is not torn.
      double high = 2.5 * line();
      for (size_t c = 1; c < t.columns.size() && c < cells.size(); ++c)
        if (!cells[c].empty()) high += double(canvas->wrapped(body(), cells[c], wide() - indent).size()) * line();
      need(std::min(high, foot() - top()));
      std::string head = cells.empty() ? std::string() : cells[0];
      lines(left(), canvas->wrapped(1.15 * body(), head, wide(), FontWeight::Bold), 1.15 * body(), FontWeight::Bold);
      for (size_t c = 1; c < t.columns.size() && c < cells.size(); ++c) {
        if (cells[c].empty()) continue;
        const auto value = canvas->wrapped(body(), cells[c], wide() - indent);
        const auto name = canvas->wrapped(small(), t.columns[c].name, indent - 0.4 * body());
        for (size_t i = 0; i < std::max(value.size(), name.size()); ++i) {
          need(line());
          if (i < name.size()) {
            canvas->tone(Tone::Soft);
            canvas->text(left(), y + body(), small(), name[i]);
            canvas->tone(Tone::Ink);
          }
          if (i < value.size()) canvas->text(left() + indent, y + body(), body(), value[i]);
          y += line();
        }
      }
      y += 0.3 * body();
      canvas->tone(Tone::Faint);
      canvas->line(left(), y, left() + wide(), y, 0.15);
      canvas->tone(Tone::Ink);
      y += 0.4 * body();
    }
  }

  void put(const Prints& p) {
    if (p.all.empty()) return;
    const double gap = 3, caption = small();
    const Picture& first = p.all.front().picture;
    if (first.height <= 0) return;
    const double shape = double(first.width) / first.height;
    double h = std::min(p.height * std::max(0.6, wide() / 186), foot() - top() - 4 * caption);
    int columns = std::max(1, int((wide() + gap) / (h * shape + gap)));
    if (columns >= int(p.all.size())) columns = int(p.all.size());
    // As large as so many in a row can be, up to a third more than was wished.
    h = std::min({1.35 * h, (wide() - (columns - 1) * gap) / columns / shape, foot() - top() - 4 * caption});
    const double w = h * shape;
    for (size_t i = 0; i < p.all.size(); i += size_t(columns)) {
      size_t most = 1;
      std::vector<std::vector<std::string>> under;
      for (size_t k = i; k < std::min(p.all.size(), i + size_t(columns)); ++k) {
        under.push_back(canvas->wrapped(caption, p.all[k].caption, w));
        most = std::max(most, under.back().size());
      }
      need(h + (double(most) * 1.25 + 0.8) * caption);
      for (size_t k = 0; k < under.size(); ++k) {
        const double x = left() + double(k) * (w + gap);
        canvas->picture(p.all[i + k].picture, x, y, w, h);
        for (size_t l = 0; l < under[k].size(); ++l)
          canvas->text(x, y + h + (1.1 + double(l) * 1.25) * caption, caption, under[k][l]);
      }
      y += h + (double(most) * 1.25 + 0.8) * caption;
    }
    y += 0.3 * body();
  }

  void put(const PictureAndFacts& p) {
    const double shape = p.picture.height > 0 ? double(p.picture.width) / p.picture.height : 0.8;
    const bool beside = !paper.narrow;
    const double w = beside ? std::min(0.42 * wide(), 100 * shape) : std::min(wide(), 0.5 * (foot() - top()) * shape),
                 h = w / shape;
    need(h);
    canvas->picture(p.picture, left(), y, w, h);
    const double from = y;
    double x = left(), room = wide();
    if (beside) {
      x += w + 6;
      room -= w + 6;
    } else {
      y += h + 0.6 * body();
    }
    double indent = 0;
    for (const auto& [name, value] : p.facts) indent = std::max(indent, canvas->textWidth(small(), name));
    indent = std::min(indent + body(), 0.4 * room);
    for (const auto& [name, value] : p.facts) {
      const auto all = canvas->wrapped(body(), value, room - indent);
      const auto words = canvas->wrapped(small(), name, indent - 0.4 * body());
      for (size_t i = 0; i < std::max(all.size(), words.size()); ++i) {
        if (!beside) need(line());
        if (i < words.size()) {
          canvas->tone(Tone::Soft);
          canvas->text(x, y + body(), small(), words[i]);
          canvas->tone(Tone::Ink);
        }
        if (i < all.size()) canvas->text(x + indent, y + body(), body(), all[i]);
        y += line();
      }
      y += 0.15 * body();
    }
    if (beside) y = std::max(y, from + h);
    y += body();
  }

  void put(const Drawing& d) {
    const double h = std::min(d.height(wide()), foot() - top());
    need(h);
    d.draw(*canvas, left(), y, wide(), h);
    canvas->tone(Tone::Ink);
    y += h + 0.6 * body();
  }
  void put(const ByHand& b) {
    for (const std::string& word : b.words) {
      need(2 * line());
      y += 2 * line();
      const double from = left() + canvas->textWidth(body(), word) + body();
      canvas->text(left(), y - 0.5 * body(), body(), word);
      canvas->tone(Tone::Soft);
      canvas->line(std::min(from, left() + 0.8 * wide()), y - 0.3 * body(), left() + wide(), y - 0.3 * body(), 0.2);
      canvas->tone(Tone::Ink);
    }
    y += body();
  }
  void put(const CodeSquare& c) {
    if (c.size <= 0) return;
    // Four modules of quiet ground round it (ISO/IEC 18004); always dark on light, or readers pass it over.
    const double side = std::min(wide(), std::max(34.0, 0.42 * (c.size + 8)));
    const double module = side / (c.size + 8);
    const auto words = canvas->wrapped(small(), c.caption, paper.narrow ? wide() : wide() - side - 5);
    need(side + (paper.narrow ? double(words.size()) * 1.3 * small() : 0));
    canvas->tone(Tone::White);
    canvas->fill(left(), y, side, side);
    canvas->tone(Tone::Black);
    modules(c, left() + 4 * module, y + 4 * module, module);
    canvas->tone(Tone::Soft);
    double at = paper.narrow ? y + side : y;
    for (const std::string& w : words) {
      canvas->text(paper.narrow ? left() : left() + side + 5, at + small(), small(), w);
      at += 1.3 * small();
    }
    canvas->tone(Tone::Ink);
    y = std::max(y + side, at) + 0.6 * body();
  }
  void modules(const CodeSquare& c, double x, double at, double module) {
    // Runs in a row as one box each, so that no hairline of ground shows between modules.
    for (int r = 0; r < c.size; ++r)
      for (int k = 0; k < c.size;) {
        if (!c.at(k, r)) {
          ++k;
          continue;
        }
        const int from = k;
        while (k < c.size && c.at(k, r)) ++k;
        canvas->fill(x + from * module, at + r * module, (k - from) * module, module);
      }
  }
  void put(const NewPage&) {
    if (!fresh()) next();
  }

  void all() {
    head();
    for (size_t i = 0; i < pages.blocks.size(); ++i) {
      following_ = 0;
      if (i + 1 < pages.blocks.size()) {
        if (const auto* d = std::get_if<Drawing>(&pages.blocks[i + 1]))
          following_ = std::min(d->height(wide()), 0.7 * (foot() - top()));
        else if (const auto* p = std::get_if<Prints>(&pages.blocks[i + 1]))
          following_ = std::min(1.35 * p->height, 0.5 * (foot() - top()));
      }
      std::visit([&](const auto& one) { put(one); }, pages.blocks[i]);
    }
  }
  double following_ = 0;  ///< height of a drawing that stands after a heading
};

}  // namespace

std::string sheetPdf(const Pages& pages, const Paper& paper, Ink ink) {
  Canvas canvas(Canvas::Kind::Pdf, paper, ink);
  canvas.title(pages.title, pages.foot);
  Layout{pages, paper, &canvas,
         [&] {
           canvas.newPage();
           return &canvas;
         }}
      .all();
  return canvas.finish();
}

std::vector<std::string> sheetSvg(const Pages& pages, const Paper& paper, Ink ink) {
  std::vector<Canvas> all;
  all.reserve(400);
  const auto turn = [&] {
    if (all.size() >= 400) throw std::runtime_error(say("The sheet has more than {} pages.", 400));
    return &all.emplace_back(Canvas::Kind::Svg, paper, ink);
  };
  Layout{pages, paper, turn(), turn}.all();
  std::vector<std::string> out;
  for (Canvas& c : all) out.push_back(c.finish());
  return out;
}

std::vector<Picture> sheetPictures(const Pages& pages, const Paper& paper, Ink ink, double scale) {
  std::vector<Picture> out;
  auto canvas = std::make_unique<Canvas>(Canvas::Kind::Pixels, paper, ink, scale);
  Layout{pages, paper, canvas.get(),
         [&] {
           out.push_back(canvas->pixels());
           canvas = std::make_unique<Canvas>(Canvas::Kind::Pixels, paper, ink, scale);
           return canvas.get();
         }}
      .all();
  out.push_back(canvas->pixels());
  return out;
}

}  // namespace easel
