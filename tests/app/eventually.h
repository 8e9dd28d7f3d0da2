// Tests wait for events, never for a time. The one limit is for a test that would otherwise hang.
#pragma once

#include <QTest>

namespace easel::app {

constexpr int kPatience = 240'000;  // ms

template <class Condition>
bool eventually(Condition condition) {
  return QTest::qWaitFor(condition, kPatience);
}

}  // namespace easel::app
