// The front door of JSON files: small files that once ended the program or took minutes are sentences, in linear time.
#include "files/json_front.h"

#include <gtest/gtest.h>

#include <fstream>
#include <functional>
#include <nlohmann/json.hpp>

#include "data/vec_member.h"
#include "files/record.h"
#include "formats/day_json.h"
#include "formats/kit_json.h"
#include "formats/wish_json.h"
#include "support.h"

namespace easel {
namespace {

std::string sentence(const std::function<void()>& read) {
  try {
    read();
    return "taken";
  } catch (const FileError& e) {
    return e.what();
  }
}
std::string ofPlan(const std::string& text) {
  return sentence([&] { readPlanText(text); });
}
std::string planWith(const std::string& members) {
  return R"({"format":"jolly-easel-plan","version":1,)" + members + "}";
}
std::string many(size_t n, const std::string& one) {
  std::string all;
  for (size_t i = 0; i < n; ++i) all += (i ? "," : "") + one;
  return all;
}

TEST(JsonFront, DepthSizeAndCountsAreSentencesForEveryKindOfFile) {
  const std::string deep(100'000, '[');
  for (const auto& read : std::vector<std::function<void(const std::string&)>>{
           [](const std::string& t) { readPlanText(t); }, [](const std::string& t) { readKitText(t); },
           [](const std::string& t) { readWishText(t); }}) {
    EXPECT_NE(sentence([&] { read(deep); }).find("deeper"), std::string::npos);
    EXPECT_NE(sentence([&] { read(""); }).find("empty"), std::string::npos);
    EXPECT_NE(sentence([&] { read(" \n"); }).find("empty"), std::string::npos);
    EXPECT_NE(sentence([&] { read("{\"a\":1e309}"); }).find("too large"), std::string::npos);
    EXPECT_NE(sentence([&] { read("{\"a\":1,\"a\":2}"); }).find("twice"), std::string::npos);
    EXPECT_NE(sentence([&] { read("{\"a\":"); }).find("byte"), std::string::npos);
  }
}

TEST(JsonFront, ManyUnknownMembersAreRefusedBeforeTheyAreSearched) {
  std::string keys;
  for (int i = 0; i < 40'000; ++i) keys += (i ? ",\"k" : "\"k") + std::to_string(i) + "\":1";
  EXPECT_NE(ofPlan(planWith(keys)).find("members"), std::string::npos);
  EXPECT_NE(ofPlan(planWith("\"lights\":[" + many(80'000, "{}") + "]")).find("elements"), std::string::npos);
  EXPECT_NE(ofPlan(planWith("\"x\":[" + many(50, "[" + many(900, "0") + "]") + "]")).find("values"), std::string::npos);
}

TEST(JsonFront, APlaceIsNamedByItsPath) {
  EXPECT_NE(ofPlan(planWith(R"("camera":{"iso":1,"iso":2})")).find("/camera/iso"), std::string::npos);
  EXPECT_NE(ofPlan(planWith(R"("lights":[{"id":"A"},{"id":"B","unit":"x","unit":"y"}])")).find("/lights/1/unit"),
            std::string::npos);
}

TEST(JsonFront, AnIdOfThirtyThousandCharactersIsASentence) {
  const std::string id(30'000, 'a');
  const std::string said = ofPlan(planWith("\"sitter\":{\"id\":\"" + id + "\"}"));
  EXPECT_NE(said, "taken");
  EXPECT_LT(said.size(), 600u) << "and is not echoed";
}

TEST(JsonFront, AFormIsToldInWords) {
  const std::string said = ofPlan(planWith(R"("sitter":{"id":"Otto Line"})"));
  EXPECT_EQ(said.find("regex"), std::string::npos) << said;
  EXPECT_NE(said.find("small letters"), std::string::npos) << said;
  EXPECT_NE(ofPlan(planWith(R"("lights":[{"id":"Z"}])")).find("A to P"), std::string::npos);
}

TEST(JsonFront, VersionsAreToldForWhatTheyAre) {
  EXPECT_NE(ofPlan(R"({"format":"jolly-easel-plan","version":7})").find("newer"), std::string::npos);
  const std::string zero = ofPlan(R"({"format":"jolly-easel-plan","version":0})");
  EXPECT_EQ(zero.find("newer"), std::string::npos) << zero;
  EXPECT_NE(zero.find("version 0"), std::string::npos) << zero;
  EXPECT_NE(ofPlan(R"({"format":"jolly-easel-plan","version":99999999999999999999})").find("version"),
            std::string::npos);
  EXPECT_NE(ofPlan(R"({"format":"jolly-easel-plan","version":18446744073709551615})").find("newer"), std::string::npos);
}

TEST(JsonFront, ForeignNamesAreCutAndMoveNoCursor) {
  EXPECT_EQ(foreign("\x1b]0;title\x07"), "?]0;title?");
  EXPECT_LE(foreign(std::string(2'000'000, 'x')).size(), 70u);
  std::string umlauts;
  for (int i = 0; i < 100; ++i) umlauts += "\u00fc";
  const std::string cut = foreign(umlauts);
  EXPECT_NO_THROW(nlohmann::json(cut).dump()) << "still whole characters";
  const std::string said = sentence([] {
    readWishText(R"({"format":"jolly-easel-wish","version":1,"look":")" + std::string(2'000'000, 'x') + "\"}");
  });
  EXPECT_LT(said.size(), 1500u);
}

TEST(JsonFront, TheFilesNameStandsInEverySentence) {
  test::TemporaryFolder f;
  std::ofstream(f.path / "mine.json") << "{";
  const auto file = f.path / "mine.json";
  for (const auto& read :
       std::vector<std::function<void()>>{[&] { loadPlan(file); }, [&] { loadKit(file); }, [&] { loadWish(file); }})
    EXPECT_NE(sentence(read).find("mine.json"), std::string::npos);
}

TEST(JsonFront, AWishWithAPlanInItIsReadThroughTheSameDoor) {
  EXPECT_NE(
      sentence([] {
        readWishText(
            R"({"format":"jolly-easel-wish","version":1,"plan":{"format":"jolly-easel-plan","version":1,"camera":{"iso":0}}})");
      }).find("iso"),
      std::string::npos);
}

TEST(JsonFront, EveryErrorSaysThePlaceAllTheWayDown) {
  const JsonLimits limits{.kind = "day"};
  const nlohmann::ordered_json json = nlohmann::ordered_json::parse(
      R"({"circuits":[{"sockets":[{"hour":3},{"hour":"late"}]}],"flag":1,"point":[1,2]})");
  const Record day(json, limits);
  const auto placeOf = [&](const std::function<void()>& read) {
    try {
      read();
    } catch (const FileError& e) {
      EXPECT_NE(std::string(e.what()).find("This is not a usable day, at " + e.place + ":"), std::string::npos);
      return e.place;
    }
    return std::string("taken");
  };
  double hour = 0;
  EXPECT_EQ(placeOf([&] {
              day.each("circuits", [&](const Record& circuit) {
                circuit.each("sockets", [&](const Record& socket) { take(socket, "hour", hour); });
              });
            }),
            "/circuits/0/sockets/1/hour");
  EXPECT_EQ(hour, 3) << "what came before it was read";
  EXPECT_EQ(placeOf([&] {
              day.each("circuits", [&](const Record& circuit) {
                circuit.each("sockets", [](const Record&) { throw std::invalid_argument("no."); });
              });
            }),
            "/circuits/0/sockets/0");
  EXPECT_EQ(placeOf([&] { day["flag"].get<bool>(); }), "/flag");
  EXPECT_EQ(placeOf([&] { day["point"].get<Vec3>(); }), "/point");
  EXPECT_EQ(placeOf([&] { day["point"][2]; }), "/point");
  EXPECT_EQ(placeOf([&] { day["nothing"]; }), "/");
  EXPECT_EQ(day.value("nothing", 7), 7);
}

TEST(JsonFront, PlansAndDaysNameTheMember) {
  const auto placeOf = [](const std::function<void()>& read) {
    try {
      read();
    } catch (const FileError& e) {
      return e.place;
    }
    return std::string("taken");
  };
  EXPECT_EQ(placeOf([] { readPlanText(planWith(R"("lights":[{"id":"A"},{"id":"Q"}])")); }), "/lights/1/id");
  EXPECT_EQ(
      placeOf([] {
        readDayText(
            R"({"format":"jolly-easel-day","version":1,"sitters":[{"name":"Wren","arrives":"half past never"}]})");
      }),
      "/sitters/0/arrives");
}

}  // namespace
}  // namespace easel
