#include "devices/device_hub.h"

#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QLocalSocket>
#include <QStandardPaths>
#include <algorithm>
#include <cstdio>
#include <utility>

#include "formats/plan_json.h"

namespace easel::app {
namespace {

constexpr int kMostDevices = 16, kMostNonsense = 50;
constexpr qint64 kMostAtOnce = 4096;  // bytes in one event: some milliseconds, however bad they are

QString wordsOf(const WireMessage& m) {
  QStringList out;
  for (const auto& [name, value] : m.values) {
    const QString n = QString::fromStdString(name);
    if (const double* number = std::get_if<double>(&value))
      out << n + " " + QString::number(*number, 'g', 4);
    else if (const bool* yes = std::get_if<bool>(&value))
      out << (*yes ? n : DeviceHub::tr("not %1").arg(n));
    else
      out << n + " " + QString::fromStdString(std::get<std::string>(value)).left(40);
  }
  return out.join(", ");
}

}  // namespace

DeviceHub& DeviceHub::current() {
  static QPointer<DeviceHub> hub;
  if (!hub) {
    hub = new DeviceHub;
    // Ended with the application and not after it: sockets and processes want it.
    hub->setParent(QCoreApplication::instance());
  }
  return *hub;
}

DeviceHub::DeviceHub() {
  connect(&server_, &QLocalServer::newConnection, this, [this] {
    while (QLocalSocket* socket = server_.nextPendingConnection()) joins(socket);
  });
  overdue_.setInterval(500);
  connect(&overdue_, &QTimer::timeout, this, [this] {
    bool open = false;
    for (const Held& j : std::vector(joined_)) {
      take(j, j->link.overdue(std::chrono::steady_clock::now()));
      open = open || !j->asked.empty();
    }
    if (!open) overdue_.stop();
  });
}

DeviceHub::~DeviceHub() {
  disconnect();
  // Sockets outlive what is said here about them.
  for (const Held& j : joined_)
    if (j->socket) j->socket->disconnect(this);
  endSimulated();
}

bool DeviceHub::listen() {
  if (server_.isListening()) return true;
  problem_.clear();
  const QString run = QStandardPaths::writableLocation(QStandardPaths::RuntimeLocation);
  const QString folder = (run.isEmpty() ? QDir::tempPath() : run) + "/jolly-easel";
  QDir().mkpath(folder);
  QFile::setPermissions(folder, QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
  const QString name = folder + "/wire";
  // Held by a file, not found out by a call: a session that does not answer at the moment has the devices all the same.
  if (!held_) held_ = HeldFile::hold(name + ".lock");
  if (!held_) {
    problem_ = tr("Another session of Jolly Easel has the devices. Meter there, or close it.");
    emit changed();
    return false;
  }
  QLocalServer::removeServer(name);
  server_.setSocketOptions(QLocalServer::UserAccessOption);
  if (!server_.listen(name)) problem_ = tr("Devices cannot join: %1 (%2).").arg(server_.errorString(), name);
  emit changed();
  return problem_.isEmpty();
}

void DeviceHub::joins(QLocalSocket* socket) {
  if (int(joined_.size()) >= kMostDevices) {
    // Who has not said what it is has no place: the one that has been silent longest goes.
    const auto silent =
        std::find_if(joined_.begin(), joined_.end(), [](const Held& j) { return !j->link.device().has_value(); });
    if (silent == joined_.end()) {
      emit noted(tr("More than %1 devices: the last one is left out.").arg(kMostDevices), true);
      socket->deleteLater();
      return;
    }
    const Held gone = *silent;
    if (gone->socket) gone->socket->disconnect(this);
    leaves(gone);
  }
  const auto own = std::make_shared<Joined>();
  own->socket = socket;
  // A device speaks in short lines: what floods waits in the system, not here.
  socket->setReadBufferSize(kMostAtOnce);
  joined_.push_back(own);
  connect(socket, &QLocalSocket::readyRead, this, [this, own] { read(own); });
  connect(socket, &QLocalSocket::disconnected, this, [this, own] { leaves(own); });
}

void DeviceHub::read(const Held& of) {
  if (of->left || !of->socket) return;
  const QByteArray bytes = of->socket->read(kMostAtOnce);
  take(of, of->link.take({bytes.constData(), size_t(bytes.size())}));
  // The rest in an event of its own, so that the hand comes in between.
  if (!of->left && of->socket && of->socket->bytesAvailable() > 0)
    QMetaObject::invokeMethod(
        this, [this, of] { read(of); }, Qt::QueuedConnection);
}

void DeviceHub::take(const Held& of, const std::vector<WireEvent>& events) {
  for (const WireEvent& e : events) {
    if (of->left || !of->socket) return;  // what was told has made it go
    using K = WireEvent::Kind;
    if (e.kind != K::Noted && e.kind != K::Asked) of->nonsense = 0;
    switch (e.kind) {
      case K::Joined:
        emit noted(tr("%1 has joined.").arg(QString::fromStdString(e.message.name)), false);
        emit changed();
        break;
      case K::Answered:
      case K::Failed: {
        const auto at = std::find_if(of->asked.begin(), of->asked.end(), [&](const auto& a) { return a.id == e.id; });
        if (at == of->asked.end()) break;
        const Joined::Asked asked = *at;
        of->asked.erase(at);
        const bool good = e.kind == K::Answered;
        of->last = good ? wordsOf(e.message) : QString::fromStdString(e.note);
        emit changed();
        if (asked.receiver) asked.then(good ? &e.message : nullptr, QString::fromStdString(e.note));
        break;
      }
      case K::Told:
        of->last = wordsOf(e.message);
        emit changed();
        emit told(of->link.device()->device, e.message);
        break;
      case K::Refused:
        emit noted(QString::fromStdString(e.note), true);
        send(*of);
        of->socket->disconnectFromServer();
        return;
      case K::Noted:
      case K::Asked:
        ++of->nonsense;
        // Said once or twice; who goes on is let go.
        if (of->nonsense > kMostNonsense) {
          emit noted(tr("A device sends nothing that can be understood; it was disconnected."), true);
          of->socket->abort();
          return;
        }
        if (of->nonsense > 2) break;
        of->last = QString::fromStdString(e.note);
        emit noted(of->last, true);
        emit changed();
        break;
    }
  }
  if (!of->left) send(*of);
}

void DeviceHub::leaves(const Held& gone) {
  if (std::exchange(gone->left, true)) return;
  std::erase(joined_, gone);
  if (gone->socket) gone->socket->deleteLater();
  for (const WireEvent& e : gone->link.gone())
    for (const auto& a : gone->asked)
      if (a.id == e.id && a.receiver) a.then(nullptr, QString::fromStdString(e.note));
  if (gone->link.device())
    emit noted(tr("%1 has disconnected. Go on by hand.").arg(QString::fromStdString(gone->link.device()->name)), true);
  emit changed();
}

void DeviceHub::send(Joined& to) {
  const std::string out = to.link.out();
  if (!out.empty() && to.socket) to.socket->write(out.data(), qint64(out.size()));
}

std::vector<DeviceHub::Device> DeviceHub::devices() const {
  std::vector<Device> out;
  for (const auto& j : joined_) {
    const auto& hello = j->link.device();
    if (!hello) continue;
    QStringList abilities;
    for (const std::string& a : hello->abilities) abilities << QString::fromStdString(a).left(40);
    out.push_back({hello->device, QString::fromStdString(hello->name).left(60), abilities, j->last});
  }
  return out;
}

DeviceHub::Joined* DeviceHub::deviceThat(DeviceKind kind, const std::string& what) {
  for (const auto& j : joined_)
    if (j->link.device() && j->link.device()->device == kind && j->link.can(what)) return j.get();
  return nullptr;
}

bool DeviceHub::can(DeviceKind kind, const std::string& what) const {
  return const_cast<DeviceHub*>(this)->deviceThat(kind, what) != nullptr;
}

void DeviceHub::ask(DeviceKind kind, const std::string& what, const WireValues& values, QObject* receiver, Then then) {
  Joined* to = deviceThat(kind, what);
  if (!to) return then(nullptr, tr("No %1 that can do that has joined.").arg(QString::fromStdString(deviceName(kind))));
  const long long id = to->link.ask(what, values, std::chrono::steady_clock::now());
  to->asked.push_back({id, receiver, std::move(then)});
  send(*to);
  overdue_.start();
}

bool DeviceHub::simulate(DeviceKind kind, quint64 seed, const QString& script, bool hidden) {
  if (!listen()) return false;
  const QString name = "easel-device";
  const QString here = QCoreApplication::applicationDirPath();
  QString program;
  for (const char* at : {"/../standins/", "/../libexec/jolly-easel/", "/"})
    if (program.isEmpty() && QFile::exists(here + at + name)) program = here + at + name;
  if (program.isEmpty()) {
    problem_ = tr("The program of the simulated devices, %1, is missing. Install Jolly Easel again.").arg(name);
    emit changed();
    return false;
  }
  if (!studio_) studio_ = std::make_unique<QTemporaryDir>();
  if (!studio_->isValid()) {
    problem_ = tr("There is no room for the simulated studio: %1.").arg(studio_->errorString());
    emit changed();
    return false;
  }
  QStringList arguments{QString::fromStdString(deviceName(kind)),
                        "--wire",
                        socket(),
                        "--studio",
                        studio_->path(),
                        "--seed",
                        QString::number(seed)};
  if (!script.isEmpty()) arguments << "--script" << script;
  if (hidden) arguments << "--hidden";
  auto process = std::make_unique<QProcess>();
  process->setProcessChannelMode(QProcess::ForwardedChannels);
  connect(process.get(), &QProcess::errorOccurred, this, [this, name](QProcess::ProcessError e) {
    if (e == QProcess::FailedToStart) emit noted(tr("%1 does not start.").arg(name), true);
  });
  process->start(program, arguments);
  simulated_.push_back(std::move(process));
  emit changed();
  return true;
}

bool DeviceHub::simulating() const {
  return std::any_of(simulated_.begin(), simulated_.end(),
                     [](const auto& p) { return p->state() != QProcess::NotRunning; });
}

void DeviceHub::endSimulated() {
  for (const auto& p : simulated_) {
    p->disconnect(this);
    p->kill();
    p->waitForFinished(1000);
  }
  simulated_.clear();
  studio_.reset();
  putLast_.clear();
}

void DeviceHub::putPlan(const Plan& plan) {
  if (!studio_) return;
  const std::string text = writePlanText(plan);
  if (text == putLast_) return;
  // Whole or not at all; nobody's work, so nothing waits for the disk.
  const QString file = studio_->path() + "/plan.easel.json", beside = file + ".new";
  QFile out(beside);
  if (!out.open(QIODevice::WriteOnly) || out.write(text.data(), qint64(text.size())) != qint64(text.size())) {
    emit noted(tr("The simulated studio cannot be written: %1.").arg(out.errorString()), true);
    return;
  }
  out.close();
  if (std::rename(QFile::encodeName(beside).constData(), QFile::encodeName(file).constData()) == 0) putLast_ = text;
}

}  // namespace easel::app
