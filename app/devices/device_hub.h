// The devices that have joined: a local socket that only this user can open, one link a device (docs/formats/wire.md).
//
// One for the program; the first session of a user has the socket. What is asked is answered, failed or overdue, always
// with a call of `then`. Simulated devices are programs of our own, started here and ended with this one; the plan is
// put where they find it. Interface thread; nothing here waits.
#pragma once

#include <QLocalServer>
#include <QObject>
#include <QPointer>
#include <QProcess>
#include <QTemporaryDir>
#include <QTimer>
#include <functional>
#include <memory>
#include <vector>

#include "document/state_folder.h"
#include "plan/plan.h"
#include "wire/link.h"

class QLocalSocket;

namespace easel::app {

class DeviceHub : public QObject {
  Q_OBJECT

 public:
  static DeviceHub& current();
  ~DeviceHub() override;

  /// Opens the socket, if it is not open yet. False, with problem(), when it cannot.
  bool listen();
  QString socket() const { return server_.isListening() ? server_.fullServerName() : QString(); }
  const QString& problem() const { return problem_; }

  struct Device {
    DeviceKind kind;
    QString name;
    QStringList abilities;
    QString last;  ///< what it said last, in words
  };
  std::vector<Device> devices() const;
  bool can(DeviceKind kind, const std::string& what) const;

  /// `answer` is null when it failed, and `why` then says it. Not called when `receiver` has gone.
  using Then = std::function<void(const WireMessage* answer, const QString& why)>;
  void ask(DeviceKind kind, const std::string& what, const WireValues& values, QObject* receiver, Then then);

  /// Starts one of the simulated devices; `script` may be empty. False, with problem(), when it cannot be found.
  bool simulate(DeviceKind kind, quint64 seed, const QString& script = {}, bool hidden = false);
  bool simulating() const;
  void endSimulated();
  /// Of the plan that is metered, for simulated devices.
  void putPlan(const Plan& plan);

 signals:
  void changed();
  void told(easel::DeviceKind kind, const easel::WireMessage& message);
  void noted(const QString& sentence, bool problem);

 private:
  DeviceHub();
  struct Joined {
    QPointer<QLocalSocket> socket;
    bool left = false;  ///< it is held by whoever is dealing with it, and by nobody else
    ProgramLink link;
    QString last;
    struct Asked {
      long long id;
      QPointer<QObject> receiver;
      Then then;
    };
    std::vector<Asked> asked;
    int nonsense = 0;  ///< lines in a row that nobody understands
  };
  void joins(QLocalSocket* socket);
  using Held = std::shared_ptr<Joined>;
  void read(const Held& of);
  void take(const Held& of, const std::vector<WireEvent>& events);
  void leaves(const Held& gone);
  void send(Joined& to);
  Joined* deviceThat(DeviceKind kind, const std::string& what);

  QLocalServer server_;
  QString problem_;
  std::unique_ptr<HeldFile> held_;  ///< the socket is this session's
  std::vector<Held> joined_;
  std::vector<std::unique_ptr<QProcess>> simulated_;
  std::unique_ptr<QTemporaryDir> studio_;
  std::string putLast_;
  QTimer overdue_;
};

}  // namespace easel::app
