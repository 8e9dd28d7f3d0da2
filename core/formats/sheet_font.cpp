#include "formats/sheet_font.h"

#include <cairo-ft.h>
#include <cairo.h>
#include <ft2build.h>
#include FT_FREETYPE_H

#include <stdexcept>

#include "spoken/say.h"

__asm__(
    ".section .rodata\n"
    ".global easel_sheet_font\n.global easel_sheet_font_end\n"
    "easel_sheet_font:\n.incbin \"" EASEL_SHEET_FONT
    "\"\n"
    "easel_sheet_font_end:\n.byte 0\n"
    ".global easel_sheet_bold\n.global easel_sheet_bold_end\n"
    "easel_sheet_bold:\n.incbin \"" EASEL_SHEET_BOLD
    "\"\n"
    "easel_sheet_bold_end:\n.byte 0\n"
    ".previous\n");
extern "C" const unsigned char easel_sheet_font[], easel_sheet_font_end[], easel_sheet_bold[], easel_sheet_bold_end[];

namespace easel {
namespace {

struct Font {
  FT_Library library = nullptr;
  FT_Face face = nullptr;
  cairo_font_face_t* cairo = nullptr;
  Font(const unsigned char* begin, const unsigned char* end) {
    if (FT_Init_FreeType(&library) != 0 || FT_New_Memory_Face(library, begin, FT_Long(end - begin), 0, &face) != 0)
      throw std::runtime_error(say("The font of the sheet could not be read."));
    cairo = cairo_ft_font_face_create_for_ft_face(face, 0);
  }
};

}  // namespace

cairo_font_face_t* sheetFont(FontWeight weight) {
  static const Font regular(easel_sheet_font, easel_sheet_font_end), bold(easel_sheet_bold, easel_sheet_bold_end);
  return weight == FontWeight::Bold ? bold.cairo : regular.cairo;
}

}  // namespace easel
