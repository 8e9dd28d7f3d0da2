// What every fault with cures is held to.
#pragma once

#include <gtest/gtest.h>

#include <string>

#include "analysis/plan_reader.h"
#include "analysis/remedies.h"

namespace easel::test {

/// The first of the cures that were tried clears the fault.
inline void expectCured(PlanReader& reader, const Plan& plan, const std::string& fault) {
  const auto cures = findRemedies(reader, plan, fault);
  ASSERT_FALSE(cures.empty());
  EXPECT_TRUE(cures.front().clears) << cures.front().text;
  EXPECT_FALSE(cures.front().reading.fault(fault));
}

}  // namespace easel::test
