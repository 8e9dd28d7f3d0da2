#include "day/people_page.h"

#include <QCheckBox>
#include <QDate>
#include <QFormLayout>
#include <QGridLayout>
#include <QLabel>
#include <algorithm>

#include "spoken/clock.h"
#include "spoken/length.h"
#include "spoken/number.h"
#include "widgets/edit_table.h"
#include "widgets/fields.h"
#include "widgets/wording.h"

namespace easel::app {
namespace {

double numberOf(const QString& text, double otherwise, double least, double most, const QString& what) {
  if (text.isEmpty()) return otherwise;
  const auto v = wholeNumber(text.toStdString());
  if (!v || !(*v >= least && *v <= most))
    throw std::invalid_argument(PeoplePage::tr("%1: a number from %2 to %3 is expected, not \"%4\".")
                                    .arg(what)
                                    .arg(least)
                                    .arg(most)
                                    .arg(text)
                                    .toStdString());
  return *v;
}
int minutesOf(const QString& text, int most, const QString& what) {
  return int(std::lround(numberOf(text, 0, 0, most, what)));
}
QString timeText(int minutes) { return QString::fromStdString(writeTime(minutes)); }
int timeOf(const QString& text, int otherwise) { return text.isEmpty() ? otherwise : readTime(text.toStdString()); }
LengthUnit unit() { return Preferences::current().spelling().lengths; }

// A row that is no more, or one more, or another one.
template <class T>
T& rowOf(std::vector<T>& all, int row) {
  if (row >= int(all.size())) all.emplace_back();
  return all[size_t(std::min<size_t>(size_t(row), all.size() - 1))];
}

void typeSitter(Day& d, int row, const QStringList& w) {
  if (w[0].isEmpty()) throw std::invalid_argument(PeoplePage::tr("Give the sitter a name.").toStdString());
  const std::string name = w[0].toStdString();
  for (size_t i = 0; i < d.sitters.size(); ++i)
    if (int(i) != row && d.sitters[i].name == name)
      throw std::invalid_argument(PeoplePage::tr("There is already a sitter of that name.").toStdString());
  const std::string was = row < int(d.sitters.size()) ? d.sitters[size_t(row)].name : std::string();
  DaySitter s = row < int(d.sitters.size()) ? d.sitters[size_t(row)] : DaySitter{};
  s.name = name;
  s.arrives = timeOf(w[1], d.start);
  s.leaves = timeOf(w[2], d.end);
  s.makeUp = minutesOf(w[3], 480, PeoplePage::tr("Make-up"));
  s.notes = w[4].toStdString();
  rowOf(d.sitters, row) = s;
  if (!was.empty() && was != name)
    for (DayLook& l : d.looks) std::replace(l.sitters.begin(), l.sitters.end(), was, name);
}

void typeBreak(Day& d, int row, const QStringList& w) {
  DayBreak b;
  b.from = timeOf(w[0], b.from);
  b.to = w[1].isEmpty() ? b.from + 30 : readTime(w[1].toStdString());
  b.what = w[2].toStdString();
  if (b.to <= b.from)
    throw std::invalid_argument(PeoplePage::tr("The break at %1 ends before it begins. Give it a later end.")
                                    .arg(timeText(b.from))
                                    .toStdString());
  rowOf(d.breaks, row) = b;
}

// A row is a socket; circuits are what has the same name.
void typeSocket(Day& d, int row, const QStringList& w) {
  struct Row {
    Circuit circuit;
    Socket socket;
  };
  std::vector<Row> rows;
  for (const Circuit& c : d.circuits)
    for (const Socket& s : c.sockets) rows.push_back({c, s});
  Row r = row < int(rows.size()) ? rows[size_t(row)] : Row{};
  r.circuit.name = w[0].toStdString();
  r.circuit.volts = numberOf(w[1], 230, 50, 480, PeoplePage::tr("Volts"));
  r.circuit.amperes = numberOf(w[2], 16, 1, 125, PeoplePage::tr("Amperes"));
  r.socket.name = w[3].toStdString();
  r.socket.hour = w[4].isEmpty() ? 6 : readClock(w[4].toStdString());
  r.socket.distance = w[5].isEmpty() ? 3 : readLength(w[5].toStdString(), unit());
  if (!(r.socket.distance >= 0 && r.socket.distance <= 30))
    throw std::invalid_argument(PeoplePage::tr("A socket can be at most 30 m away.").toStdString());
  rowOf(rows, row) = r;
  d.circuits.clear();
  for (const Row& one : rows) {
    auto at = std::find_if(d.circuits.begin(), d.circuits.end(),
                           [&](const Circuit& c) { return c.name == one.circuit.name; });
    if (at == d.circuits.end()) {
      d.circuits.push_back(one.circuit);
      at = std::prev(d.circuits.end());
      at->sockets.clear();
    }
    if (one.circuit.name == r.circuit.name) {
      at->volts = r.circuit.volts;  // what was typed last holds for the whole circuit
      at->amperes = r.circuit.amperes;
    }
    at->sockets.push_back(one.socket);
  }
}

void typeThing(Day& d, int row, const QStringList& w) {
  const auto& all = usualDay().appliances;
  const auto at = std::find_if(all.begin(), all.end(), [&](const Appliance& a) {
    return QString::fromStdString(a.name).startsWith(w[0], Qt::CaseInsensitive) || QString::fromStdString(a.id) == w[0];
  });
  if (w[0].isEmpty() || at == all.end())
    throw std::invalid_argument(
        PeoplePage::tr("\"%1\" is not known. The table's tip says what is.").arg(w[0]).toStdString());
  PluggedIn p;
  p.appliance = at->id;
  p.hour = w[1].isEmpty() ? 9 : readClock(w[1].toStdString());
  p.distance = w[2].isEmpty() ? 3 : readLength(w[2].toStdString(), unit());
  if (!(p.distance >= 0 && p.distance <= 30))
    throw std::invalid_argument(PeoplePage::tr("It can be at most 30 m away.").toStdString());
  rowOf(d.pluggedIn, row) = p;
}

void removeSitter(Day& d, int row) {
  const std::string name = d.sitters.at(size_t(row)).name;
  d.sitters.erase(d.sitters.begin() + row);
  for (DayLook& l : d.looks) std::erase(l.sitters, name);
}

void removeBreak(Day& d, int row) { d.breaks.erase(d.breaks.begin() + row); }

void removeSocket(Day& d, int row) {
  for (Circuit& c : d.circuits) {
    if (row < int(c.sockets.size())) {
      c.sockets.erase(c.sockets.begin() + row);
      break;
    }
    row -= int(c.sockets.size());
  }
  std::erase_if(d.circuits, [](const Circuit& c) { return c.sockets.empty(); });
}

void removeThing(Day& d, int row) { d.pluggedIn.erase(d.pluggedIn.begin() + row); }

}  // namespace

PeoplePage::PeoplePage(DayDesk* desk, QWidget* parent) : QWidget(parent), desk_(desk) {
  auto* grid = new QGridLayout(this);
  auto* hours = new QFormLayout;
  hours->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
  hourFields(hours);
  grid->addLayout(hours, 0, 0, 2, 1);

  const auto table = [&](EditTable*& t, const char* name, const QString& title, const QStringList& heads, int row,
                         int column) {
    auto* box = new QVBoxLayout;
    auto* label = new QLabel(title, this);
    box->addWidget(label);
    t = new EditTable(name, title, heads, this);
    label->setBuddy(t);
    box->addWidget(t, 1);
    grid->addLayout(box, row, column);
  };
  table(sitters_, "daySitters", tr("&Sitters"),
        {tr("Name"), tr("Comes"), tr("Leaves"), tr("Make-up, min"), tr("Notes")}, 0, 1);
  table(breaks_, "dayBreaks", tr("&Breaks"), {tr("From"), tr("To"), tr("What")}, 1, 1);
  table(sockets_, "daySockets", tr("So&ckets"),
        {tr("Circuit"), tr("Volts"), tr("Amperes"), tr("Socket"), tr("Clock"), tr("Away")}, 2, 0);
  table(things_, "dayThings", tr("&What else is plugged in"), {tr("Thing"), tr("Clock"), tr("Away")}, 2, 1);
  grid->setColumnStretch(0, 1);
  grid->setColumnStretch(1, 1);
  grid->setRowStretch(0, 3);
  grid->setRowStretch(1, 2);
  grid->setRowStretch(2, 3);
  QStringList known;
  for (const Appliance& a : usualDay().appliances) known << QString::fromStdString(a.name);
  things_->setToolTip(
      tr("Known: %1. Others come from a file of your own (docs/formats/shoot.md).").arg(known.join(", ")));

  const auto taken = [this](EditTable* t, const QString& label, auto change) {
    connect(t, &EditTable::rowTyped, this, [this, label, change](int row, const QStringList& w) {
      desk_->document()->edit(label, [&](Day& d) { change(d, row, w); });
    });
  };
  taken(sitters_, tr("Sitters"), typeSitter);
  taken(breaks_, tr("Breaks"), typeBreak);
  taken(sockets_, tr("Sockets"), typeSocket);
  taken(things_, tr("Plugged in"), typeThing);
  const auto removed = [this](EditTable* t, const QString& label, auto change) {
    connect(t, &EditTable::rowRemoved, this,
            [this, label, change](int row) { desk_->document()->edit(label, [&](Day& d) { change(d, row); }); });
  };
  removed(sitters_, tr("Sitters"), removeSitter);
  removed(breaks_, tr("Breaks"), removeBreak);
  removed(sockets_, tr("Sockets"), removeSocket);
  removed(things_, tr("Plugged in"), removeThing);
  connect(desk->document(), &DayDocument::changed, this, &PeoplePage::refresh);
  refresh();
}

void PeoplePage::hourFields(QFormLayout* hours) {
  const auto text = [](std::string Day::*m) { return [m](const Day& d) { return QString::fromStdString(d.*m); }; };
  const auto words = [](std::string Day::*m) { return [m](Day& d, const QString& v) { d.*m = v.toStdString(); }; };
  field(hours, "dayTitle", tr("Day"), text(&Day::title), [](Day& d, const QString& v) {
    if (v.isEmpty()) throw std::invalid_argument(tr("Give the day a name.").toStdString());
    d.title = v.toStdString();
  });
  field(hours, "dayDate", tr("Date"), text(&Day::date), [](Day& d, const QString& v) {
    if (!v.isEmpty() && !QDate::fromString(v, Qt::ISODate).isValid())
      throw std::invalid_argument(tr("\"%1\" is not a date. Write it like 2026-12-05.").arg(v).toStdString());
    d.date = v.toStdString();
  });
  field(hours, "dayStudio", tr("Studio"), text(&Day::studio), words(&Day::studio));
  field(
      hours, "dayStart", tr("From"), [](const Day& d) { return timeText(d.start); },
      [](Day& d, const QString& v) { d.start = readTime(v.toStdString()); });
  field(
      hours, "dayEnd", tr("To"), [](const Day& d) { return timeText(d.end); },
      [](Day& d, const QString& v) { d.end = readTime(v.toStdString()); });
  field(
      hours, "daySetUp", tr("Unloading, min"), [](const Day& d) { return QString::number(d.setUp); },
      [](Day& d, const QString& v) { d.setUp = minutesOf(v, 600, tr("Unloading")); });
  field(
      hours, "dayFrame", tr("A frame takes, s"),
      [](const Day& d) { return QString::number(d.secondsPerFrame, 'g', 4); },
      [](Day& d, const QString& v) {
        d.secondsPerFrame = numberOf(v, d.secondsPerFrame, 0.1, 3600, tr("Seconds a frame"));
      });
  field(
      hours, "dayOutfit", tr("Changing clothes, min"), [](const Day& d) { return QString::number(d.outfitMinutes); },
      [](Day& d, const QString& v) { d.outfitMinutes = minutesOf(v, 240, tr("Changing clothes")); });
  once_ = new QCheckBox(tr("Each backdrop goes up once"), this);
  once_->setObjectName("dayOnce");
  hours->addRow(QString(), once_);
  connect(once_, &QCheckBox::toggled, this,
          [this](bool on) { desk_->document()->edit(tr("Backdrops"), [on](Day& d) { d.backdropOnce = on; }); });
}

SpokenField* PeoplePage::field(QFormLayout* form, const char* name, const QString& label,
                               std::function<QString(const Day&)> get, std::function<void(Day&, const QString&)> set) {
  auto* f = new SpokenField(
      [this, label, set](const QString& v) { desk_->document()->edit(label, [&](Day& d) { set(d, v.trimmed()); }); },
      this);
  f->setObjectName(name);
  f->setAccessibleName(label);
  form->addRow(label, f);
  fields_.emplace_back(f, std::move(get));
  return f;
}

void PeoplePage::refresh() {
  const Day& d = desk_->day();
  for (const auto& [f, get] : fields_) f->setShown(get(d));
  const QSignalBlocker quiet(once_);
  once_->setChecked(d.backdropOnce);
  std::vector<QStringList> rows;
  for (const DaySitter& s : d.sitters)
    rows.push_back({QString::fromStdString(s.name), timeText(s.arrives), timeText(s.leaves), QString::number(s.makeUp),
                    QString::fromStdString(s.notes)});
  sitters_->setRows(rows);
  rows.clear();
  for (const DayBreak& b : d.breaks) rows.push_back({timeText(b.from), timeText(b.to), QString::fromStdString(b.what)});
  breaks_->setRows(rows);
  rows.clear();
  for (const Circuit& c : d.circuits)
    for (const Socket& s : c.sockets)
      rows.push_back({QString::fromStdString(c.name), QString::number(c.volts), QString::number(c.amperes),
                      QString::fromStdString(s.name), hourText(s.hour), lengthText(s.distance)});
  sockets_->setRows(rows);
  rows.clear();
  for (const PluggedIn& p : d.pluggedIn) {
    const Appliance* a = findAppliance(p.appliance);
    rows.push_back({a ? QString::fromStdString(a->name) : QString::fromStdString(p.appliance), hourText(p.hour),
                    lengthText(p.distance)});
  }
  things_->setRows(rows);
}

}  // namespace easel::app
