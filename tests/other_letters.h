// A language for tests: every letter of a text in another script, so that what is still in Latin letters came past the
// translators, however it was wrapped, shortened or put together.
#pragma once

#include <algorithm>
#include <cctype>
#include <regex>
#include <set>
#include <string>
#include <string_view>

#include "formats/day_json.h"

namespace easel::test {

/// Places of values ({}, {:.{}f}, %1, %n), marks of text (<b>) and entities (&nbsp;) stay as they are.
inline std::string inOtherLetters(std::string_view english) {
  static const std::regex kept(R"(%L?[0-9]+|%n|\{[^{}]*(\{[^{}]*\}[^{}]*)*\}|<[^>]*>|&[a-z]+;)");
  const std::string text(english);
  std::string out;
  const auto turn = [&](auto from, auto to) {
    for (; from != to; ++from) {
      const char c = *from;
      // Cyrillic letters in two bytes, U+0410 for A and U+0430 for a.
      const int code = c >= 'a' && c <= 'z' ? 0x430 + c - 'a' : c >= 'A' && c <= 'Z' ? 0x410 + c - 'A' : 0;
      if (!code)
        out += c;
      else
        out += {char(0xC0 | code >> 6), char(0x80 | (code & 0x3F))};
    }
  };
  auto at = text.begin();
  for (std::sregex_iterator i(text.begin(), text.end(), kept), end; i != end; ++i) {
    turn(at, text.begin() + i->position());
    out += i->str();
    at = text.begin() + i->position() + i->length();
  }
  turn(at, text.end());
  return out;
}

/// The first word of two Latin letters and more that is no symbol of a unit, no format, no path and none of `names`;
/// empty: there is none.
inline std::string latinWord(const std::string& text, const std::set<std::string>& names = {}) {
  static const std::set<std::string> symbols{"lx",  "cm",  "mm",  "ms",  "kg",  "Ws",   "ISO",  "EV", "min",
                                             "IES", "PDF", "PNG", "SVG", "CSV", "JSON", "HTML", "ft", "in"};
  static const std::regex marks("<[^>]*>|&[a-z]+;|(^| )/[^ :]+"), word("[A-Za-z]{2,}");
  std::string plain = std::regex_replace(text, marks, " ");
  std::erase(plain, '&');  // before the letter of a key
  for (std::sregex_iterator i(plain.begin(), plain.end(), word), end; i != end; ++i)
    if (const std::string found = i->str(); !symbols.contains(found) && !names.contains(found)) return found;
  return {};
}

// What people named, in the other letters too.
inline void turn(std::string& s) { s = inOtherLetters(s); }
inline Plan turned(Plan p) {
  turn(p.title);
  turn(p.notes);
  for (Light& l : p.lights) turn(l.name);
  for (Panel& q : p.panels) turn(q.name);
  for (PinnedSpot& s : p.spots) turn(s.name);
  return p;
}
inline Day turned(Day d) {
  for (std::string* s : {&d.title, &d.studio, &d.notes}) turn(*s);
  for (DayBreak& b : d.breaks) turn(b.what);
  for (DaySitter& one : d.sitters) turn(one.name), turn(one.notes);
  for (DayLook& l : d.looks) {
    l.plan = turned(l.plan);
    l.file.clear();
    for (std::string* s : {&l.title, &l.outfit, &l.framing, &l.notes}) turn(*s);
    for (std::string& name : l.sitters) turn(name);
  }
  for (Circuit& c : d.circuits) {
    turn(c.name);
    for (Socket& socket : c.sockets) turn(socket.name);
  }
  return d;
}

}  // namespace easel::test
