#include "stand_in.h"

#include <QCommandLineParser>
#include <QFile>
#include <QVBoxLayout>
#include <algorithm>
#include <cstdio>

#include "formats/plan_json.h"
#include "spoken/number.h"

namespace easel::standins {
namespace {

[[noreturn]] void end(const QString& sentence) {
  std::fprintf(stderr, "%s\n", qPrintable(sentence));
  std::exit(2);
}

}  // namespace

Options optionsOf(QApplication& application, const QString& kind) {
  const QString name = "easel-" + kind;
  QApplication::setApplicationName(name);
  QCommandLineParser parser;
  parser.setApplicationDescription(QStringLiteral("A simulated %1 of a studio that hides something.").arg(kind));
  parser.addHelpOption();
  parser.addPositionalArgument("KIND", "meter, trigger or camera");
  parser.addOption({"wire", "The program's socket, as the Devices window shows it.", "SOCKET"});
  parser.addOption({"studio", "Folder of the simulated studio.", "FOLDER"});
  parser.addOption({"seed", "What is hidden in it.", "N", "1"});
  parser.addOption({"name", "What it calls itself.", "NAME", name});
  parser.addOption({"script", "What goes wrong when: lines like \"3 half-way\".", "FILE"});
  parser.addOption({"hidden", "Without a window."});
  parser.process(application);
  Options o;
  o.wire = parser.value("wire");
  o.studio = parser.value("studio");
  o.name = parser.value("name");
  o.hidden = parser.isSet("hidden");
  bool good = false;
  o.seed = parser.value("seed").toULongLong(&good);
  if (!good) end(QStringLiteral("--seed wants a whole number."));
  if (o.wire.isEmpty() || o.studio.isEmpty())
    end(QStringLiteral("--wire and --studio say where the program is: the Devices window shows both."));
  if (parser.isSet("script")) {
    QFile file(parser.value("script"));
    if (!file.open(QIODevice::ReadOnly | QIODevice::Text))
      end(QStringLiteral("%1 cannot be read: %2.").arg(file.fileName(), file.errorString()));
    int number = 0;
    for (const QByteArray& line : file.read(1 << 20).split('\n')) {
      ++number;
      const QList<QByteArray> words = line.simplified().split(' ');
      if (words.first().isEmpty() || words.first().startsWith('#')) continue;
      const auto mishap = words.size() == 2 ? mishapOf(words[1].toStdString()) : std::nullopt;
      const int when = words.first().toInt(&good);
      if (!mishap || !good || when < 1)
        end(QStringLiteral("%1, line %2: it should be like \"3 half-way\".").arg(file.fileName()).arg(number));
      o.script[when] = *mishap;
    }
  }
  return o;
}

StandIn::StandIn(DeviceKind kind, const Options& options, const std::vector<std::string>& abilities,
                 const std::vector<Mishap>& mishaps)
    : options_(options),
      face_(new QLabel),
      words_(new QLabel),
      abilities_(abilities),
      link_(kind, options.name.toStdString(), abilities),
      next_(new QComboBox) {
  setWindowTitle(options.name);
  auto* box = new QVBoxLayout(this);
  face_->setAlignment(Qt::AlignCenter);
  face_->setMinimumSize(220, 90);
  face_->setFrameStyle(QFrame::StyledPanel | QFrame::Sunken);
  QFont large = font();
  large.setPointSizeF(26);
  face_->setFont(large);
  box->addWidget(face_);
  words_->setWordWrap(true);
  words_->setText(QStringLiteral("Simulated. Joining..."));
  box->addWidget(words_);
  next_->setAccessibleName(QStringLiteral("What goes wrong next"));
  next_->addItem(QStringLiteral("next: all well"), int(Mishap::None));
  for (const Mishap m : mishaps)
    next_->addItem(QStringLiteral("next: ") + QString::fromStdString(mishapName(m)), int(m));
  box->addWidget(next_);
  connect(&socket_, &QLocalSocket::connected, this, &StandIn::send);
  connect(&socket_, &QLocalSocket::readyRead, this, [this] {
    const QByteArray bytes = socket_.readAll();
    for (const WireEvent& e : link_.take({bytes.constData(), size_t(bytes.size())})) {
      if (e.kind == WireEvent::Kind::Asked) take(e.id, e.message);
      if (e.kind == WireEvent::Kind::Refused) end(QString::fromStdString(e.note));
    }
    if (link_.welcome() && words_->text().endsWith("...")) say(QStringLiteral("Simulated. Joined."));
    send();
  });
  // Without the program there is nobody to measure for.
  connect(&socket_, &QLocalSocket::disconnected, qApp, &QApplication::quit);
  connect(&socket_, &QLocalSocket::errorOccurred, this, [this] {
    if (socket_.state() != QLocalSocket::ConnectedState)
      end(QStringLiteral("The program cannot be reached at %1: %2.").arg(options_.wire, socket_.errorString()));
  });
  socket_.connectToServer(options_.wire);
  // Whoever started it goes on in the window of the program.
  setAttribute(Qt::WA_ShowWithoutActivating);
  if (!options_.hidden) show();
}

void StandIn::take(long long id, const WireMessage& m) {
  if (std::find(abilities_.begin(), abilities_.end(), m.name) == abilities_.end())
    return problem(id, QStringLiteral("This device cannot do that."));
  try {
    asked(id, m);
  } catch (const std::exception& e) {
    problem(id, QString::fromUtf8(e.what()));
  }
}

void StandIn::send() {
  const std::string out = link_.out();
  if (!out.empty()) socket_.write(out.data(), qint64(out.size()));
}
void StandIn::answer(long long id, const WireValues& values) {
  link_.answer(id, values);
  send();
}
void StandIn::problem(long long id, const QString& sentence) {
  link_.problem(id, sentence.toStdString());
  say(sentence);
  send();
}
void StandIn::tell(const std::string& what, const WireValues& values) {
  link_.tell(what, values);
  send();
}

Mishap StandIn::mishapNow() {
  ++times_;
  if (const auto at = options_.script.find(times_); at != options_.script.end()) return at->second;
  const Mishap chosen = Mishap(next_->currentData().toInt());
  next_->setCurrentIndex(0);
  return chosen;
}

Plan StandIn::plan() const { return loadPlan(planFile(folder())); }

}  // namespace easel::standins
