// The people who can sit: files of the format "jolly-easel-people" (docs/formats/people.md, data/people.json).
//
// Who somebody is stands in a recipe for the data set of shapes and textures (docs/formats/sitters.md); easel-bake
// makes a sitter of it, sitter_file.h reads that.
#pragma once

#include <array>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "geometry/vec.h"
#include "sitters/colouring.h"
#include "sitters/glasses.h"
#include "sitters/skeleton.h"
#include "sitters/wardrobe.h"

namespace easel {

class Record;

/// What makes one body of the data set's shapes.
struct BodyRecipe {
  double female = 0.5;                                        ///< 1 = woman, 0 = man
  double age = 0.5;                                           ///< 0.1875 = 10 y, 0.5 = 25 y, 1 = 90 y
  double muscle = 0.5, weight = 0.5;                          ///< 0..1
  std::array<double, 3> ancestry{1.0 / 3, 1.0 / 3, 1.0 / 3};  ///< weights of the groups of shapes; sum to 1
  std::map<std::string, double> details;                      ///< target (without ending) -> weight -1..1
};

/// What a face says: weights of the data set's units of expression.
struct Expression {
  std::string id, name;
  std::map<std::string, double> shapes;  ///< unit -> weight 0..1
};
/// A hat of the data set; no garment: none.
struct Hat {
  std::string id, name, garment, relief, cloth = "wool";
  Vec3 reflectance{0.1f, 0.1f, 0.1f};
};

struct Person {
  std::string id, name, description;
  bool lightHair = false;     ///< blond, grey or white: the hair light needs less
  double skin = 0.35;         ///< luminous reflectance of the face: fair skin about a stop over mid grey (from memory)
  double standingEyes = 1.6;  ///< height of the eyes above the floor, standing [m]; a test holds it to the baked body
  BodyRecipe body;
  std::string skinTexture;                ///< file below the data set's skins
  std::string eyes, brows;                ///< names of the data set's textures and parts
  std::string hair;                       ///< style of their own: "short"
  std::string outfit = "plain-apron";     ///< what they wear in the workshop: an id of the outfits
  std::string cloth = "cotton";           ///< and what it is of: an id of the cloths
  std::string clothColour = "blue-grey";  ///< an id of the colours of clothes
  std::string glasses = "none";           ///< an id of the frames
  std::string beard = "none";             ///< an id of the beards
  Vec3 hairReflectance{0.2f, 0.15f, 0.1f}, skinTint{1, 1, 1};
  std::optional<std::array<double, 2>> melanin;  ///< as of a Colouring
};

/// All that baking makes something of, as a text, garments too: a sitter baked from another one is out of date.
std::string recipeMark(const Person& person);

struct People {
  std::vector<Person> sitters;
  std::vector<Colouring> hairColours, skinTones;
  std::vector<HairStyle> hairStyles;
  std::vector<Outfit> outfits;
  std::vector<Cloth> cloths;
  std::vector<GlassesFrame> glasses;
  std::vector<Pose> poses;
  std::vector<Expression> expressions;
  std::vector<Hat> hats;
  std::vector<Beard> beards;
  std::vector<Colouring> clothColours;
};

/// Adds what stands in a file that keeps to the schema. Throws FileError for what a schema cannot say.
void readPeople(const Record& record, People& people);
/// What ships and the user's own; read at the first call. Any thread.
const People& people();

/// All who can sit; what the plan stores is the id.
const std::vector<Person>& sitterCatalogue();
/// How arms and hands can be held; the first is the usual one. By its id: nullptr when there is none.
const std::vector<Pose>& poses();
/// What faces can say, the first nothing; nullptr when there is none of that id.
const std::vector<Expression>& expressions();
const Expression* findExpression(const std::string& id);
/// "own" first; nullptr when there is none of that id.
const std::vector<Beard>& beards();
const Beard* findBeard(const std::string& id);
/// The first: none.
const std::vector<Hat>& hats();
const Hat* findHat(const std::string& id);
const Pose* findPose(const std::string& id);
/// What it comes to for a sitter who sits or stands; the usual one when there is none of that id.
const Pose& poseOf(const std::string& id, bool sits);
/// By its id; the first of the catalogue when there is none.
const Person& personOf(const std::string& id);

}  // namespace easel
