// What stands on a sheet, before anybody knows on which paper: headings, sentences, tables, pictures, drawings.
//
// Made once from a plan or a day, laid out for a paper (sheet/layout.h) or written as HTML (sheet/html.h): the figures
// are the same wherever they stand.
#pragma once

#include <functional>
#include <string>
#include <variant>
#include <vector>

#include "rendering/progressive_render.h"
#include "sheet/canvas.h"

namespace easel {

struct Heading {
  std::string text;
  int level = 1;  ///< 1 the sheet's, 2 a part's
};
struct Sentence {
  std::string text;
  bool soft = false;
};
/// Short statements with a word before each: "1", "A", "boom".
struct Points {
  struct One {
    std::string mark, text;
    std::vector<bool> boxes = {};  ///< to tick, before the word; true: ticked already
  };
  std::vector<One> all;
};
struct Table {
  struct Column {
    std::string name;
    double share = 1;  ///< of the width
  };
  std::vector<Column> columns;
  std::vector<std::vector<std::string>> rows;
};
/// Pictures of one size beside each other, captions under them.
struct Prints {
  struct One {
    Picture picture;
    std::string caption;
  };
  std::vector<One> all;
  double height = 45;  ///< mm on A4; smaller papers take what fits
};
/// A picture with facts beside it, where the paper is wide enough; else under it.
struct PictureAndFacts {
  Picture picture;
  std::vector<std::pair<std::string, std::string>> facts;
};
/// Something drawn to scale; told how much room there is, it says how much it takes.
struct Drawing {
  std::function<double(double width)> height;
  std::function<void(Canvas&, double x, double y, double width, double height)> draw;
  std::string caption;  ///< for those who cannot see it
};
/// Empty lines for what is written by hand, each with a word before it.
struct ByHand {
  std::vector<std::string> words;
};
/// A square of modules; true is dark.
struct CodeSquare {
  int size = 0;
  std::vector<bool> dark;
  std::string caption;
  bool at(int x, int y) const { return dark[size_t(y) * size_t(size) + size_t(x)]; }
};
struct NewPage {};

using Block =
    std::variant<Heading, Sentence, Points, Table, Prints, PictureAndFacts, Drawing, ByHand, CodeSquare, NewPage>;

struct Pages {
  std::string title;  ///< at the head of every page
  std::string foot;   ///< at the foot, before the page's number
  std::vector<Block> blocks;
};

}  // namespace easel
