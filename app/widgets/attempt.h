// Work that may be refused: what it throws becomes a sentence for the user.
#pragma once

#include <QString>
#include <exception>

namespace easel::app {

/// Does `work`. When it throws, `say` gets the sentence and the answer is false.
template <class Work, class Say>
bool attempt(const Work& work, const Say& say) {
  try {
    work();
    return true;
  } catch (const std::exception& e) {
    say(QString::fromUtf8(e.what()));
    return false;
  }
}

}  // namespace easel::app
