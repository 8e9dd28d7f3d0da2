// Pictures of sets as small as a shelf shows them.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "propose/shelf.h"
#include "rendering/progressive_render.h"

namespace easel {

struct ToPrint {
  std::string id;
  const Look* look = nullptr;    ///< of the shelf: its sketch is printed
  std::optional<Plan> own = {};  ///< without a look this plan, brought to the sitter (planForSitter()), powered here
};

/// A head with its hair, at eight samples a pixel, some 150 ms each. In the order given, but that those that turn the
/// head alike follow each other, after those that do not: a turned head is a new figure. `put` gets each as soon as it
/// is made, empty when it cannot be made in this room, and returns false to stop.
void printSets(std::vector<ToPrint> sets, const Plan& here, int width, int height,
               const std::function<bool(const std::string& id, std::optional<Picture>)>& put);

/// How much of the sitter a print shows that stands for one choice of many, and by which light.
enum class PrintShows {
  Face,     ///< the head, cut out of the picture: hair, glasses, skin, expression
  Chest,    ///< half length: clothes, backdrop
  Figure,   ///< from head to foot: posture, arms
  Picture,  ///< what the camera sees, in the proportions of the print
  OneLight  ///< the face by one light alone, powered for the target aperture: what shapes it, compared like with like
};
struct ChoiceToPrint {
  std::string id;
  Plan plan;  ///< the open plan with that choice
};

/// In the order given, some 150 ms each and 300 more for another figure. `light`: of OneLight; a light that does not
/// work on the face is shown where it does. `put` as of printSets().
void printChoices(const std::vector<ChoiceToPrint>& choices, PrintShows shows, const std::string& light, int width,
                  int height, const std::function<bool(const std::string& id, std::optional<Picture>)>& put);

}  // namespace easel
