#include "widgets/wording.h"

#include <gtest/gtest.h>

#include "plan/roles.h"

namespace easel::app {
namespace {

TEST(Wording, AnOwnNameOfALightLeadsWhateverIsInIt) {
  Light l;
  l.role = Role::Rim;
  for (const char* own : {"Window, left", "Rimlight, new", "The tall one"}) {
    l.name = own;
    EXPECT_EQ(lightText(l), own);
  }
  // What a method was called says how the light got there, not what it is called.
  for (const RoleSchool& school : roleSchools()) {
    l.role = school.role;
    l.name = school.name;
    EXPECT_EQ(lightText(l), roleText(school.role)) << school.name;
  }
  l.name.clear();
  EXPECT_EQ(lightText(l), roleText(l.role));
}

TEST(Wording, StopsAsSpoken) {
  EXPECT_EQ(stopsText(0), "spot on");
  EXPECT_EQ(stopsText(-0.3), "0.3 stop under");
  EXPECT_EQ(stopsText(1), "1.0 stop over");
  EXPECT_EQ(stopsText(1.66), "1.7 stops over");
  EXPECT_EQ(stopsText(-99), "no light");
  EXPECT_EQ(shortStops(0.04), "0");
  EXPECT_EQ(shortStops(2), "+2.0");
}
TEST(Wording, HoursOnTheClock) {
  EXPECT_EQ(hourText(4.5), "4:30");
  EXPECT_EQ(hourText(12), "12:00");
  EXPECT_EQ(hourText(0.25), "12:15");
  EXPECT_EQ(hourText(11.999), "12:00");
}
TEST(Wording, Lengths) {
  Preferences::current().metres = true;
  EXPECT_EQ(lengthText(1.324), "1.32 m");
  Preferences::current().metres = false;
  EXPECT_EQ(lengthText(1.324), "4 ft 4 in");
  EXPECT_EQ(lengthText(0.3048 * 5.999), "6 ft 0 in");
  Preferences::current().metres = true;
}
TEST(Wording, PowerInTheUnitsOwnScale) {
  Light l;
  l.power = -3;
  EXPECT_EQ(powerText(l), "1/8");
  l.unit = "led-150";
  l.power = -1;
  EXPECT_EQ(powerText(l), "50 %");
  l.unit = "gone";
  EXPECT_EQ(powerText(l), "");
}

}  // namespace
}  // namespace easel::app
