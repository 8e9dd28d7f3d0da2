// What the three simulated devices have in common: joining the program over its socket, the folder of the simulated
// studio, what goes wrong when, and a small window.
//
//   easel-device meter|trigger|camera --wire SOCKET --studio FOLDER [--seed N] [--script FILE] [--hidden]
//
// A script says what goes wrong: a line "3 half-way" is the third time. Interface thread.
#pragma once

#include <QApplication>
#include <QComboBox>
#include <QLabel>
#include <QLocalSocket>
#include <QWidget>
#include <map>
#include <memory>
#include <optional>

#include "shared_state.h"
#include "wire/link.h"

namespace easel::standins {

struct Options {
  QString wire, studio, name;
  std::uint64_t seed = 1;
  std::map<int, Mishap> script;
  bool hidden = false;
};
/// `kind`: "meter". Ends the program with a sentence when they cannot be understood.
Options optionsOf(QApplication& application, const QString& kind);

class StandIn : public QWidget {
  Q_OBJECT

 public:
  StandIn(DeviceKind kind, const Options& options, const std::vector<std::string>& abilities,
          const std::vector<Mishap>& mishaps);

 protected:
  /// One of the abilities; what it throws is the problem that is answered.
  virtual void asked(long long id, const WireMessage& message) = 0;
  void answer(long long id, const WireValues& values);
  void problem(long long id, const QString& sentence);
  void tell(const std::string& what, const WireValues& values);
  /// What goes wrong this time: by the script, or what is chosen in the window, which is for once.
  Mishap mishapNow();
  std::filesystem::path folder() const { return options_.studio.toStdString(); }
  /// The plan as the program has put it there; throws std::runtime_error with a sentence.
  Plan plan() const;
  void say(const QString& words) { words_->setText(words); }

  Options options_;
  QLabel *face_, *words_;

 private:
  void take(long long id, const WireMessage& message);
  void send();
  std::vector<std::string> abilities_;
  DeviceLink link_;
  QLocalSocket socket_;
  QComboBox* next_;
  int times_ = 0;
};

std::unique_ptr<StandIn> makeMeter(const Options& options);
std::unique_ptr<StandIn> makeTrigger(const Options& options);
std::unique_ptr<StandIn> makeCamera(const Options& options);

}  // namespace easel::standins
