// The font of every sheet, as it ships inside the program: the same on every machine.
#pragma once

typedef struct _cairo_font_face cairo_font_face_t;

namespace easel {

enum class FontWeight { Regular, Bold };
/// Kept until the program ends, for cairo holds faces in a cache of its own. Throws std::runtime_error when it cannot
/// be read. Any thread.
cairo_font_face_t* sheetFont(FontWeight weight);

}  // namespace easel
