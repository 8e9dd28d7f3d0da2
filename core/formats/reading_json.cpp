#include "formats/reading_json.h"

#include <cmath>
#include <nlohmann/json.hpp>

namespace easel {
namespace {

using Json = nlohmann::ordered_json;

double figure(double v, double to = 100) { return std::round(v * to) / to; }

const char* edgeKind(ShadowEdge::Kind k) {
  switch (k) {
    case ShadowEdge::Kind::Edge:
      return "edge";
    case ShadowEdge::Kind::Wider:
      return "wider";
    case ShadowEdge::Kind::Merges:
      return "merges";
    case ShadowEdge::Kind::None:
      break;
  }
  return "none";
}
Json edge(const ShadowEdge& e) { return {{"kind", edgeKind(e.kind)}, {"mm", figure(e.width, 10)}}; }

Json faultsOf(const FaceAnalysis& r) {
  Json all = Json::array();
  for (const Fault& f : r.faults)
    all.push_back({{"id", f.id},
                   {"title", f.title},
                   {"where", f.where},
                   {"sentence", f.sentence},
                   {"why", f.why},
                   {"caution", f.caution},
                   {"wanted", f.wanted}});
  return all;
}

std::string text(const Json& j) { return j.dump(2, ' ', false, Json::error_handler_t::replace) + "\n"; }

}  // namespace

std::string writeReadingText(const Plan& plan, const FaceAnalysis& r) {
  const LightingAnalysis& l = r.lighting;
  const PatternSigns& s = l.pattern.signs;
  const Measures& m = r.measures;
  Json j{{"format", "jolly-easel-reading"}, {"version", 1}, {"title", plan.title}};
  j["pattern"] = {{"name", l.name},
                  {"id", patternId(l.pattern.pattern)},
                  {"between", l.pattern.next == FacePattern::None ? Json() : Json(patternId(l.pattern.next))},
                  {"breadth", l.breadth == Breadth::Broad   ? "broad"
                              : l.breadth == Breadth::Short ? "short"
                                                            : "straight"},
                  {"key", l.key},
                  {"litSide", l.litLeft ? "left" : "right"},
                  {"clamshell", l.clamshell},
                  {"cross", l.cross},
                  {"profile", l.profile},
                  {"azimuth", figure(l.pattern.light.azimuth, 10)},
                  {"elevation", figure(l.pattern.light.elevation, 10)},
                  {"sentence", l.sentence},
                  {"signs",
                   {{"nearCheekLit", figure(s.nearCheek)},
                    {"farCheekLit", figure(s.farCheek)},
                    {"faceLit", figure(s.face)},
                    {"noseShadowAsideMm", figure(s.aside, 10)},
                    {"noseShadowUnderMm", figure(s.under, 10)},
                    {"joined", s.joined},
                    {"gapMm", figure(s.gap, 10)},
                    {"triangleWidthMm", figure(s.triangleWidth, 10)},
                    {"triangleLengthMm", figure(s.triangleLength, 10)},
                    {"eyeWidthMm", figure(s.eyeWidth, 10)},
                    {"noseLengthMm", figure(s.noseLength, 10)}}}};
  j["quality"] = {{"noseEdge", edge(m.nose)},
                  {"jawEdge", edge(m.jaw)},
                  {"cheekEdgeMm", figure(m.cheekEdge, 10)},
                  {"litCheekStops", figure(m.lit)},
                  {"shadowCheekStops", figure(m.shadow)},
                  {"ratioStops", figure(m.ratioStops())},
                  {"fillUnderKeyStops", m.hasFill ? Json(figure(m.unitStops)) : Json()},
                  {"fillForeheadOverThroatStops", figure(m.fillTopToBottom)},
                  {"keyAcrossStops", figure(m.acrossStops)},
                  {"faceBurnt", figure(m.burnt, 1000)},
                  {"faceBlocked", figure(m.blocked, 1000)}};
  Json outline = Json::array();
  for (const OutlinePlace& o : m.outline)
    outline.push_back({{"part", o.part == OutlinePlace::Part::Hair   ? "hair"
                                : o.part == OutlinePlace::Part::Face ? "face"
                                                                     : "shoulder"},
                       {"x", figure(o.pixel.x, 10)},
                       {"y", figure(o.pixel.y, 10)},
                       {"lightness", figure(o.inside, 10)},
                       {"backdropLightness", figure(o.outside, 10)},
                       {"stops", figure(o.stops)}});
  j["outline"] = {{"weakest", m.weakest}, {"headMerged", figure(m.hairMerged)}, {"places", outline}};
  j["backdrop"] = {{"shows", m.backdropShows},
                   {"lightness", figure(m.backdropLightness, 10)},
                   {"tone", m.backdropTone},
                   {"gradientStops", figure(m.backdropGradient)},
                   {"brightestBelowEyes", figure(m.brightestBelowEyes)},
                   {"brightestAside", figure(m.brightestAside)}};
  Json catchlights = Json::array();
  for (const Catchlight& c : r.catchlights.all)
    catchlights.push_back({{"light", c.light},
                           {"eye", c.eye == 0 ? "left" : "right"},
                           {"lives", c.lives},
                           {"visible", figure(c.visible)},
                           {"hiddenBy", c.hiddenBy},
                           {"onIris", c.onIris},
                           {"x", figure(c.x, 1000)},
                           {"y", figure(c.y, 1000)},
                           {"hour", figure(c.hour, 10)},
                           {"widthMm", figure(c.width)},
                           {"heightMm", figure(c.height)},
                           {"shape", c.shape},
                           {"wouldLiveAtHeight", c.lowerTo > 0 ? Json(figure(c.lowerTo)) : Json()}});
  j["catchlights"] = catchlights;
  j["faults"] = faultsOf(r);
  return text(j);
}

std::string writeFaultsText(const Plan& plan, const FaceAnalysis& r) {
  Json j{{"format", "jolly-easel-faults"}, {"version", 1}, {"title", plan.title}, {"count", r.count()}};
  j["faults"] = faultsOf(r);
  return text(j);
}

}  // namespace easel
