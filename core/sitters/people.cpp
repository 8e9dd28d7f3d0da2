#include "sitters/people.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <stdexcept>

#include "data/by_id.h"
#include "data/data_files.h"
#include "data/named.h"
#include "data/vec_member.h"
#include "files/record.h"
#include "spoken/say.h"

namespace easel {
namespace {

// They become names of files: nothing that leads out of the folder.
void demandInside(const char* member, const std::string& path) {
  const bool slashes = std::string_view(member) == "skinTexture";
  if (path.find("..") != std::string::npos || path.front() == '/' ||
      !std::all_of(path.begin(), path.end(), [&](unsigned char c) {
        return std::isalnum(c) || c == '-' || c == '_' || c == '.' || (slashes && c == '/');
      }))
    throw std::invalid_argument(say("\"{}\" cannot be its {}: use letters, figures, - and _.", foreign(path), member));
}

BodyRecipe readBody(const Record& record) {
  BodyRecipe b;
  take(record, "female", b.female);
  take(record, "age", b.age);
  take(record, "muscle", b.muscle);
  take(record, "weight", b.weight);
  take(record, "ancestry", b.ancestry);
  const double sum = b.ancestry[0] + b.ancestry[1] + b.ancestry[2];
  if (std::abs(sum - 1) > 0.01)
    throw std::invalid_argument(say("The weights of its ancestry add up to {:.2f}. They must make 1.", sum));
  if (record.contains("details"))
    record["details"].eachMember([&](const std::string& target, const Record& weight) {
      if (!weight.json().is_number() || std::abs(weight.get<double>()) > 1)
        throw std::invalid_argument(say("The weight of {} must be a number from -1 to 1.", foreign(target)));
      b.details[target] = weight.get<double>();
    });
  return b;
}

Person readPerson(const Record& record) {
  Person p;
  take(record, "id", p.id);
  take(record, "name", p.name);
  take(record, "description", p.description);
  p.description = translated(p.description);
  take(record, "lightHair", p.lightHair);
  take(record, "skin", p.skin);
  take(record, "standingEyes", p.standingEyes);
  p.body = readBody(record["body"]);
  take(record, "skinTexture", p.skinTexture);
  take(record, "eyes", p.eyes);
  take(record, "brows", p.brows);
  take(record, "hair", p.hair);
  take(record, "outfit", p.outfit);
  take(record, "cloth", p.cloth);
  take(record, "clothColour", p.clothColour);
  take(record, "glasses", p.glasses);
  take(record, "beard", p.beard);
  take(record, "hairReflectance", p.hairReflectance);
  take(record, "melanin", p.melanin);
  take(record, "skinTint", p.skinTint);
  for (const auto& [member, path] :
       {std::pair{"id", p.id}, {"skinTexture", p.skinTexture}, {"eyes", p.eyes}, {"brows", p.brows}})
    demandInside(member, path);
  return p;
}

Colouring readColouring(const Record& record) {
  auto c = named<Colouring>(record);
  take(record, "reflectance", c.reflectance);
  take(record, "melanin", c.melanin);
  return c;
}

HairStyle readHairStyle(const Record& record) {
  auto s = named<HairStyle>(record);
  take(record, "strands", s.strands);
  take(record, "thickness", s.thickness);
  take(record, "length", s.length);
  take(record, "varied", s.varied);
  take(record, "edge", s.edge);
  take(record, "taper", s.taper);
  take(record, "cutAt", s.cutAt);
  take(record, "bald", s.bald);
  take(record, "lift", s.lift);
  take(record, "volume", s.volume);
  take(record, "gravity", s.gravity);
  take(record, "part", s.part);
  take(record, "knot", s.knot);
  take(record, "clumps", s.clumps);
  take(record, "clumping", s.clumping);
  take(record, "wave", s.wave);
  take(record, "waveLength", s.waveLength);
  take(record, "coil", s.coil);
  take(record, "coilLength", s.coilLength);
  take(record, "frizz", s.frizz);
  if (record.contains("combing")) {
    const Record c = record["combing"];
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
void takeGarment(const Record& record, std::string& garment, std::string& relief) {
  take(record, "garment", garment);
  take(record, "relief", relief);
  for (const auto& [member, path] : {std::pair{"garment", garment}, {"relief", relief}})
    if (!path.empty()) demandInside(member, path);
}

Outfit readOutfit(const Record& record) {
  auto o = named<Outfit>(record);
  takeGarment(record, o.garment, o.relief);
  take(record, "apron", o.apron);
  take(record, "shirt", o.shirt);
  take(record, "tie", o.tie);
  return o;
}

GlassesFrame readFrame(const Record& record) {
  auto f = named<GlassesFrame>(record);
  take(record, "width", f.width);
  take(record, "height", f.height);
  take(record, "roundness", f.roundness);
  take(record, "rim", f.rim);
  take(record, "reflectance", f.reflectance);
  return f;
}

ArmPose readArm(const Record& record) {
  ArmPose a;
  take(record, "onThigh", a.onThigh);
  take(record, "wrist", a.wrist);
  take(record, "elbow", a.elbow);
  take(record, "fingers", a.fingers);
  take(record, "palm", a.palm);
  take(record, "curl", a.curl);
  take(record, "clear", a.clear);
  return a;
}
Pose readPose(const Record& record) {
  auto p = named<Pose>(record);
  take(record, "sits", p.sits);
  take(record, "seatedAs", p.seatedAs);
  take(record, "lean", p.lean);
  const Record arms = record["arms"];
  for (size_t side = 0; side < 2; ++side) p.arms[side] = readArm(arms[std::min(side, arms.size() - 1)]);
  return p;
}

Expression readExpression(const Record& record) {
  auto e = named<Expression>(record);
  take(record, "shapes", e.shapes);
  for (const auto& [unit, weight] : e.shapes)
    if (weight < 0 || weight > 1)
      throw std::invalid_argument(say("The weight of {} must be a number from 0 to 1.", foreign(unit)));
  return e;
}
Beard readBeard(const Record& record) {
  auto b = named<Beard>(record);
  take(record, "strands", b.strands);
  take(record, "thickness", b.thickness);
  take(record, "length", b.length);
  take(record, "varied", b.varied);
  take(record, "cheeks", b.cheeks);
  take(record, "lip", b.lip);
  take(record, "chin", b.chin);
  take(record, "curl", b.curl);
  return b;
}
Hat readHat(const Record& record) {
  auto h = named<Hat>(record);
  takeGarment(record, h.garment, h.relief);
  take(record, "cloth", h.cloth);
  take(record, "reflectance", h.reflectance);
  return h;
}

Cloth readCloth(const Record& record) {
  auto c = named<Cloth>(record);
  take(record, "sheen", c.sheen);
  take(record, "roughness", c.roughness);
  take(record, "fuzz", c.fuzz);
  take(record, "weave", c.weave);
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

void readPeople(const Record& record, People& people) {
  record.each("hairColours", [&](const Record& r) { put(people.hairColours, readColouring(r)); });
  record.each("skinTones", [&](const Record& r) { put(people.skinTones, readColouring(r)); });
  record.each("hairStyles", [&](const Record& r) { put(people.hairStyles, readHairStyle(r)); });
  record.each("outfits", [&](const Record& r) { put(people.outfits, readOutfit(r)); });
  record.each("cloths", [&](const Record& r) { put(people.cloths, readCloth(r)); });
  record.each("glasses", [&](const Record& r) { put(people.glasses, readFrame(r)); });
  record.each("poses", [&](const Record& r) { put(people.poses, readPose(r)); });
  record.each("expressions", [&](const Record& r) { put(people.expressions, readExpression(r)); });
  record.each("beards", [&](const Record& r) { put(people.beards, readBeard(r)); });
  record.each("hats", [&](const Record& r) { put(people.hats, readHat(r)); });
  record.each("clothColours", [&](const Record& r) { put(people.clothColours, readColouring(r)); });
  record.each("people", [&](const Record& r) {
    Person p = readPerson(r);
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
