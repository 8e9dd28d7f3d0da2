// What a box lets one choose: ids, which the program keeps, and names, which it shows.
#pragma once

#include <QString>
#include <utility>
#include <vector>

namespace easel::app {

using Choices = std::vector<std::pair<QString, QString>>;

/// Of a list of the core, after those that stand `before` it.
template <class All>
Choices choicesOf(const All& all, Choices before = {}) {
  for (const auto& one : all) before.emplace_back(QString::fromStdString(one.id), QString::fromStdString(one.name));
  return before;
}

}  // namespace easel::app
