// The wire: what both ends make of what the other sends, good and bad.
#include <gtest/gtest.h>

#include <limits>

#include "files/json_front.h"
#include "wire/link.h"

namespace easel {
namespace {

using E = WireEvent::Kind;
const WireTime kNow{};

struct Joined {
  ProgramLink program;
  DeviceLink device{DeviceKind::Meter, "pocket", {"read"}};
  Joined() {
    const auto events = program.take(device.out());
    EXPECT_EQ(events.size(), 1u);
    EXPECT_EQ(events.at(0).kind, E::Joined);
    EXPECT_TRUE(device.take(program.out()).empty());
  }
};

std::vector<E> kinds(const std::vector<WireEvent>& events) {
  std::vector<E> out;
  for (const WireEvent& e : events) out.push_back(e.kind);
  return out;
}

TEST(Wire, ADeviceJoinsIsAskedAndAnswers) {
  Joined w;
  EXPECT_TRUE(w.device.welcome());
  EXPECT_EQ(w.program.device()->name, "pocket");
  EXPECT_TRUE(w.program.can("read"));
  EXPECT_FALSE(w.program.can("fire"));
  const long long id = w.program.ask("read", {{"iso", 100.0}, {"towards", std::string("A")}, {"flash", true}}, kNow);
  const auto asked = w.device.take(w.program.out());
  ASSERT_EQ(kinds(asked), std::vector{E::Asked});
  EXPECT_EQ(*asked[0].message.number("iso"), 100);
  EXPECT_EQ(*asked[0].message.text("towards"), "A");
  EXPECT_TRUE(*asked[0].message.yes("flash"));
  EXPECT_EQ(asked[0].message.number("towards"), nullptr) << "of another kind";
  w.device.answer(asked[0].id, {{"fNumber", 5.93}});
  const auto answered = w.program.take(w.device.out());
  ASSERT_EQ(kinds(answered), std::vector{E::Answered});
  EXPECT_EQ(answered[0].id, id);
  EXPECT_EQ(*answered[0].message.number("fNumber"), 5.93);
}

TEST(Wire, BytesMayComeInAnyPieces) {
  ProgramLink program;
  DeviceLink device(DeviceKind::Trigger, "two-way", {});
  int joined = 0;
  for (const char c : device.out())
    for (const WireEvent& e : program.take(std::string(1, c))) joined += e.kind == E::Joined;
  EXPECT_EQ(joined, 1);
}

TEST(Wire, AnotherVersionIsRefusedWithASentence) {
  ProgramLink program;
  const auto events = program.take("{\"hello\": \"jolly-easel-wire\", \"version\": 9}\n");
  ASSERT_EQ(kinds(events), std::vector{E::Refused});
  EXPECT_NE(events[0].note.find("version 9"), std::string::npos) << events[0].note;
  DeviceLink device(DeviceKind::Meter, "pocket", {});
  EXPECT_EQ(kinds(device.take(program.out())), std::vector{E::Refused});
  EXPECT_FALSE(program.device());
  EXPECT_EQ(program.ask("read", {}, kNow), 0);
}

TEST(Wire, WhatIsNotUnderstoodIsNotedAndLeft) {
  Joined w;
  const std::vector<std::string> bad = {
      "nonsense",
      "[1, 2]",
      "{}",
      "{\"ask\": 7}",
      "{\"answer\": \"seven\"}",
      "{\"answer\": -1}",
      "{\"answer\": 1e300}",
      "{\"tell\": \"reading\", \"fNumber\": [1]}",
      "{\"tell\": \"reading\", \"fNumber\": {\"of\": 1}}",
      "{\"tell\": \"reading\", \"fNumber\": 1e999}",
      "{\"tell\": \"reading\", \"tell\": \"twice\"}",
      "{\"hello\": \"another-wire\", \"version\": 1}",
      "{\"hello\": \"jolly-easel-wire\", \"version\": 1, \"device\": \"kettle\", \"name\": \"k\"}",
      "{\"tell\": \"" + std::string(500, 'x') + "\"}",
      std::string(200, '['),
      std::string("\xff\xfe\x00zero", 7)};
  for (const std::string& line : bad) {
    const auto events = w.program.take(line + "\n");
    ASSERT_EQ(events.size(), 1u) << line;
    EXPECT_EQ(events[0].kind, E::Noted) << line;
    EXPECT_FALSE(events[0].note.empty());
  }
  EXPECT_TRUE(w.program.take("\n\n\n").empty());
  // And the wire is whole after all of that.
  w.device.tell("reading", {{"fNumber", 8.0}});
  EXPECT_EQ(kinds(w.program.take(w.device.out())), std::vector{E::Told});
}

TEST(Wire, ALineWithoutAnEndTakesNoMemory) {
  Joined w;
  int notes = 0;
  const std::string piece(64 << 10, 'x');
  for (int i = 0; i < 100; ++i)
    for (const WireEvent& e : w.program.take(piece)) notes += e.kind == E::Noted;
  EXPECT_EQ(notes, 1);
  w.device.tell("reading", {{"fNumber", 8.0}});
  EXPECT_EQ(kinds(w.program.take("\n" + w.device.out())), std::vector{E::Told});
}

TEST(Wire, WhatIsAskedTwiceIsDoneOnce) {
  Joined w;
  w.program.ask("fire", {}, kNow);
  const std::string line = w.program.out();
  EXPECT_EQ(kinds(w.device.take(line)), std::vector{E::Asked});
  EXPECT_EQ(kinds(w.device.take(line)), std::vector{E::Noted}) << "still on its way";
  EXPECT_EQ(w.device.out(), "");
  w.device.answer(1, {{"fired", true}});
  const std::string answer = w.device.out();
  EXPECT_EQ(kinds(w.device.take(line)), std::vector{E::Noted});
  EXPECT_EQ(w.device.out(), answer) << "the same answer again";
  EXPECT_EQ(kinds(w.program.take(answer)), std::vector{E::Answered});
  EXPECT_EQ(kinds(w.program.take(answer)), std::vector{E::Noted}) << "and the second is left";
}

TEST(Wire, WhatIsLateIsFailedAndALateAnswerIsLeft) {
  Joined w;
  const long long id = w.program.ask("read", {}, kNow);
  EXPECT_TRUE(w.program.overdue(kNow + kWirePatience - std::chrono::milliseconds(1)).empty());
  const auto late = w.program.overdue(kNow + kWirePatience);
  ASSERT_EQ(kinds(late), std::vector{E::Failed});
  EXPECT_EQ(late[0].id, id);
  EXPECT_TRUE(w.program.overdue(kNow + 2 * kWirePatience).empty()) << "once";
  static_cast<void>(w.device.take(w.program.out()));
  w.device.answer(id, {{"fNumber", 8.0}});
  const auto events = w.program.take(w.device.out());
  ASSERT_EQ(kinds(events), std::vector{E::Noted});
  EXPECT_NE(events[0].note.find("late"), std::string::npos);
}

TEST(Wire, ADeviceThatGoesFailsWhatItWasAsked) {
  Joined w;
  w.program.ask("read", {}, kNow);
  w.program.ask("read", {}, kNow);
  EXPECT_EQ(kinds(w.program.gone()), (std::vector{E::Failed, E::Failed}));
  EXPECT_TRUE(w.program.gone().empty());
}

TEST(Wire, AProblemComesWithItsSentence) {
  Joined w;
  w.program.ask("read", {}, kNow);
  static_cast<void>(w.device.take(w.program.out()));
  w.device.problem(1, "No flash came.");
  const auto events = w.program.take(w.device.out());
  ASSERT_EQ(kinds(events), std::vector{E::Failed});
  EXPECT_NE(events[0].note.find("pocket: No flash came."), std::string::npos) << events[0].note;
}

TEST(Wire, NamesAndNumbersFromAnywhereAreWritten) {
  WireMessage m;
  m.kind = WireMessage::Kind::Tell;
  m.name = "state";
  m.values = {{"bad", std::numeric_limits<double>::quiet_NaN()}, {"name", std::string("\xff")}, {"good", 1.0}};
  const WireMessage back = readMessage(writeMessage(m));
  EXPECT_EQ(back.number("bad"), nullptr);
  EXPECT_NE(back.text("name"), nullptr);
  EXPECT_EQ(*back.number("good"), 1);
}

}  // namespace
}  // namespace easel
