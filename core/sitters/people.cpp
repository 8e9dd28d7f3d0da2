#include "sitters/people.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <stdexcept>

#include "data/by_id.h"
#include "data/data_files.h"
#include "data/taking.h"
#include "spoken/say.h"

namespace easel {
namespace {

using Json = nlohmann::ordered_json;
const JsonLimits kPeopleLimits{.kind = "list of people"};

// They become names of files: nothing that leads out of the folder.
void demandInside(const char* member, const std::string& path) {
  const bool slashes = std::string_view(member) == "skinTexture";
  if (path.find("..") != std::string::npos || path.front() == '/' ||
      !std::all_of(path.begin(), path.end(), [&](unsigned char c) {
        return std::isalnum(c) || c == '-' || c == '_' || c == '.' || (slashes && c == '/');
      }))
    throw std::invalid_argument(
        say("\"{}\" cannot be its {}: letters, figures, - and _ are wanted.", foreign(path), member));
}

BodyRecipe readBody(const Json& json) {
  BodyRecipe b;
  take(json, "female", b.female);
  take(json, "age", b.age);
  take(json, "muscle", b.muscle);
  take(json, "weight", b.weight);
  take(json, "ancestry", b.ancestry);
  const double sum = b.ancestry[0] + b.ancestry[1] + b.ancestry[2];
  if (std::abs(sum - 1) > 0.01)
    throw std::invalid_argument(say("The weights of its ancestry add up to {:.2f}. They must make 1.", sum));
  if (json.contains("details"))
    for (const auto& [target, weight] : json["details"].items()) {
      if (!weight.is_number() || std::abs(weight.get<double>()) > 1)
        throw std::invalid_argument(say("The weight of {} must be a number from -1 to 1.", foreign(target)));
      b.details[target] = weight.get<double>();
    }
  return b;
}

Person readPerson(const Json& json) {
  Person p;
  take(json, "id", p.id);
  take(json, "name", p.name);
  take(json, "description", p.description);
  p.description = translated(p.description);
  take(json, "lightHair", p.lightHair);
  take(json, "skin", p.skin);
  take(json, "standingEyes", p.standingEyes);
  p.body = readBody(json["body"]);
  take(json, "skinTexture", p.skinTexture);
  take(json, "eyes", p.eyes);
  take(json, "brows", p.brows);
  take(json, "hair", p.hair);
  take(json, "outfit", p.outfit);
  take(json, "cloth", p.cloth);
  take(json, "clothColour", p.clothColour);
  take(json, "glasses", p.glasses);
  take(json, "beard", p.beard);
  take(json, "hairReflectance", p.hairReflectance);
  take(json, "melanin", p.melanin);
  take(json, "skinTint", p.skinTint);
  for (const auto& [member, path] :
       {std::pair{"id", p.id}, {"skinTexture", p.skinTexture}, {"eyes", p.eyes}, {"brows", p.brows}})
    demandInside(member, path);
  return p;
}

// An entry of a list: what all of them have.
template <class T>
T named(const Json& json) {
  T t;
  take(json, "id", t.id);
  take(json, "name", t.name);
  t.name = translated(t.name);
  return t;
}

Colouring readColouring(const Json& json) {
  auto c = named<Colouring>(json);
  take(json, "reflectance", c.reflectance);
  take(json, "melanin", c.melanin);
  return c;
}

HairStyle readHairStyle(const Json& json) {
  auto s = named<HairStyle>(json);
  take(json, "strands", s.strands);
  take(json, "thickness", s.thickness);
  take(json, "length", s.length);
  take(json, "varied", s.varied);
  take(json, "edge", s.edge);
  take(json, "taper", s.taper);
  take(json, "cutAt", s.cutAt);
  take(json, "bald", s.bald);
  take(json, "lift", s.lift);
  take(json, "volume", s.volume);
  take(json, "gravity", s.gravity);
  take(json, "part", s.part);
  take(json, "knot", s.knot);
  take(json, "clumps", s.clumps);
  take(json, "clumping", s.clumping);
  take(json, "wave", s.wave);
  take(json, "waveLength", s.waveLength);
  take(json, "coil", s.coil);
  take(json, "coilLength", s.coilLength);
  take(json, "frizz", s.frizz);
  if (json.contains("combing")) {
    const Json& c = json["combing"];
    take(c, "back", s.combing.back);
    take(c, "down", s.combing.down);
    take(c, "forward", s.combing.forward);
    take(c, "aside", s.combing.aside);
    take(c, "whorl", s.combing.whorl);
    take(c, "tie", s.combing.tie);
  }
  return s;
}

// Of the data set, with its map of folds; either may be missing.
void takeGarment(const Json& json, std::string& garment, std::string& relief) {
  take(json, "garment", garment);
  take(json, "relief", relief);
  for (const auto& [member, path] : {std::pair{"garment", garment}, {"relief", relief}})
    if (!path.empty()) demandInside(member, path);
}

Outfit readOutfit(const Json& json) {
  auto o = named<Outfit>(json);
  takeGarment(json, o.garment, o.relief);
  take(json, "apron", o.apron);
  take(json, "shirt", o.shirt);
  take(json, "tie", o.tie);
  return o;
}

GlassesFrame readFrame(const Json& json) {
  auto f = named<GlassesFrame>(json);
  take(json, "width", f.width);
  take(json, "height", f.height);
  take(json, "roundness", f.roundness);
  take(json, "rim", f.rim);
  take(json, "reflectance", f.reflectance);
  return f;
}

ArmPose readArm(const Json& json) {
  ArmPose a;
  take(json, "onThigh", a.onThigh);
  take(json, "wrist", a.wrist);
  take(json, "elbow", a.elbow);
  take(json, "fingers", a.fingers);
  take(json, "palm", a.palm);
  take(json, "curl", a.curl);
  take(json, "clear", a.clear);
  return a;
}
Pose readPose(const Json& json) {
  auto p = named<Pose>(json);
  take(json, "sits", p.sits);
  take(json, "seatedAs", p.seatedAs);
  take(json, "lean", p.lean);
  const Json& arms = json["arms"];
  for (size_t side = 0; side < 2; ++side) p.arms[side] = readArm(arms[std::min(side, arms.size() - 1)]);
  return p;
}

Expression readExpression(const Json& json) {
  auto e = named<Expression>(json);
  take(json, "shapes", e.shapes);
  for (const auto& [unit, weight] : e.shapes)
    if (weight < 0 || weight > 1)
      throw std::invalid_argument(say("The weight of {} must be a number from 0 to 1.", foreign(unit)));
  return e;
}
Beard readBeard(const Json& json) {
  auto b = named<Beard>(json);
  take(json, "strands", b.strands);
  take(json, "thickness", b.thickness);
  take(json, "length", b.length);
  take(json, "varied", b.varied);
  take(json, "cheeks", b.cheeks);
  take(json, "lip", b.lip);
  take(json, "chin", b.chin);
  take(json, "curl", b.curl);
  return b;
}
Hat readHat(const Json& json) {
  auto h = named<Hat>(json);
  takeGarment(json, h.garment, h.relief);
  take(json, "cloth", h.cloth);
  take(json, "reflectance", h.reflectance);
  return h;
}

Cloth readCloth(const Json& json) {
  auto c = named<Cloth>(json);
  take(json, "sheen", c.sheen);
  take(json, "roughness", c.roughness);
  take(json, "fuzz", c.fuzz);
  take(json, "weave", c.weave);
  return c;
}

}  // namespace

std::string recipeMark(const Person& p) {
  const BodyRecipe& b = p.body;
  std::string out = fmt::format("{} {} {} {} {} {} {} {} {} {} {}", p.name, b.female, b.age, b.muscle, b.weight,
                                b.ancestry[0], b.ancestry[1], b.ancestry[2], p.skinTexture, p.eyes, p.brows);
  out += fmt::format(" {} {}", p.hair, p.outfit);
  for (const Outfit& o : outfits()) {
    out += fmt::format(" {} {}", o.garment, o.relief);
    for (const auto& boxes : {o.shirt, o.tie})
      for (const Outfit::Box& b : boxes) out += fmt::format(" {} {} {} {}", b[0], b[1], b[2], b[3]);
  }
  for (const Expression& e : expressions()) {
    out += fmt::format(" {}", e.id);
    for (const auto& [unit, weight] : e.shapes) out += fmt::format(" {} {}", unit, weight);
  }
  for (const Hat& h : hats()) out += fmt::format(" {} {} {}", h.id, h.garment, h.relief);
  for (const Vec3& v : {p.hairReflectance, p.skinTint}) out += fmt::format(" {} {} {}", v.x, v.y, v.z);
  for (const auto& [target, weight] : b.details) out += fmt::format(" {} {}", target, weight);
  return out;
}

void readPeople(const Json& json, People& people) {
  eachEntry(json, "hairColours", kPeopleLimits, [&](const Json& j) { put(people.hairColours, readColouring(j)); });
  eachEntry(json, "skinTones", kPeopleLimits, [&](const Json& j) { put(people.skinTones, readColouring(j)); });
  eachEntry(json, "hairStyles", kPeopleLimits, [&](const Json& j) { put(people.hairStyles, readHairStyle(j)); });
  eachEntry(json, "outfits", kPeopleLimits, [&](const Json& j) { put(people.outfits, readOutfit(j)); });
  eachEntry(json, "cloths", kPeopleLimits, [&](const Json& j) { put(people.cloths, readCloth(j)); });
  eachEntry(json, "glasses", kPeopleLimits, [&](const Json& j) { put(people.glasses, readFrame(j)); });
  eachEntry(json, "poses", kPeopleLimits, [&](const Json& j) { put(people.poses, readPose(j)); });
  eachEntry(json, "expressions", kPeopleLimits, [&](const Json& j) { put(people.expressions, readExpression(j)); });
  eachEntry(json, "beards", kPeopleLimits, [&](const Json& j) { put(people.beards, readBeard(j)); });
  eachEntry(json, "hats", kPeopleLimits, [&](const Json& j) { put(people.hats, readHat(j)); });
  eachEntry(json, "clothColours", kPeopleLimits, [&](const Json& j) { put(people.clothColours, readColouring(j)); });
  eachEntry(json, "people", kPeopleLimits, [&](const Json& j) {
    Person p = readPerson(j);
    if (!byId(people.outfits, p.outfit))
      throw std::invalid_argument(say("There is no outfit \"{}\". Name one of outfits.", foreign(p.outfit)));
    if (!byId(people.hairStyles, p.hair))
      throw std::invalid_argument(say("There is no hair style \"{}\". Name one of hairStyles.", foreign(p.hair)));
    put(people.sitters, std::move(p));
  });
}

const People& people() {
  static const People all = gathered<People>(DataKind::People, readPeople);
  return all;
}
const std::vector<Person>& sitterCatalogue() { return people().sitters; }
const std::vector<Pose>& poses() { return people().poses; }
const std::vector<Expression>& expressions() { return people().expressions; }
const Expression* findExpression(const std::string& id) { return byId(expressions(), id); }
const std::vector<Beard>& beards() { return people().beards; }
const Beard* findBeard(const std::string& id) { return byId(beards(), id); }
const std::vector<Hat>& hats() { return people().hats; }
const Hat* findHat(const std::string& id) { return byId(hats(), id); }
const Pose* findPose(const std::string& id) { return byId(poses(), id); }
const Pose& poseOf(const std::string& id, bool sits) {
  const Pose* pose = findPose(id);
  if (!pose || (pose->sits && !sits)) pose = &poses().front();
  const Pose* seated = sits && !pose->seatedAs.empty() ? findPose(pose->seatedAs) : nullptr;
  return seated ? *seated : *pose;
}
const Person& personOf(const std::string& id) {
  const Person* p = byId(sitterCatalogue(), id);
  return p ? *p : sitterCatalogue().front();
}

}  // namespace easel
