#include "widgets/theme.h"

#include <QAbstractItemView>
#include <QApplication>
#include <QComboBox>
#include <QEvent>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QProxyStyle>
#include <QRegularExpression>
#include <QSet>
#include <QStyleFactory>
#include <QStyleOption>
#include <QTabBar>
#include <QTableWidget>

#include "spoken/number.h"

// The resources sit in a static library: the linker keeps them only when they are named.
static void initResources() { Q_INIT_RESOURCE(easel); }

namespace easel::app {
namespace {

Theme made(bool dim) {
  Theme t;
  t.dim = dim;
  // Every text colour is at least 4.5:1 on its ground.
  if (dim) {
    t.window = QColor(0x26, 0x26, 0x26);
    t.panel = QColor(0x30, 0x30, 0x30);
    t.line = QColor(0x50, 0x50, 0x50);
    t.border = QColor(0x86, 0x86, 0x86);
    t.text = QColor(0xe4, 0xe2, 0xdf);
    t.quiet = QColor(0xb0, 0xae, 0xaa);
    t.accent = QColor(0xe8, 0xa2, 0x4a);
    t.onAccent = QColor(0x1c, 0x14, 0x08);
    t.surround = QColor(0x3a, 0x3a, 0x3a);
    t.warn = QColor(0xff, 0x9d, 0x7a);
  } else {
    t.window = QColor(0xd9, 0xd8, 0xd6);
    t.panel = QColor(0xe9, 0xe8, 0xe6);
    t.line = QColor(0xa9, 0xa7, 0xa3);
    t.border = QColor(0x72, 0x70, 0x6d);
    t.text = QColor(0x22, 0x21, 0x20);
    t.quiet = QColor(0x52, 0x50, 0x4d);
    t.accent = QColor(0x8c, 0x46, 0x04);
    t.onAccent = QColor(0xff, 0xff, 0xff);
    t.surround = QColor(0x74, 0x74, 0x74);
    t.warn = QColor(0x92, 0x1e, 0x08);
  }
  return t;
}

Theme& mutableCurrent() {
  static Theme t = made(false);
  return t;
}

// The style sheet is hung on the widgets that it is about, some hundred: on the application it is matched against every
// one of some fifteen hundred, which holds the window for half a second at each change.
QString& sheet() {
  static QString now;
  return now;
}
bool isInSheet(const QWidget* w) {
  static const QSet<QString> named{"answer",    "patternName", "readAloud", "quiet",     "problem",
                                   "fieldNote", "offer",       "stage",     "ledgeMode", "dayNotice"};
  return qobject_cast<const QTabBar*>(w) || qobject_cast<const QTableWidget*>(w) || w->inherits("QTipLabel") ||
         w->property("large").toBool() || named.contains(w->objectName());
}

// Hangs it on what comes later, before that is polished; not in QStyle::polish(), whose style this would replace.
class Dresser : public QObject {
 public:
  using QObject::QObject;
  bool eventFilter(QObject* o, QEvent* e) override {
    if (e->type() == QEvent::Polish)
      if (auto* w = qobject_cast<QWidget*>(o); w && isInSheet(w)) w->setStyleSheet(sheet());
    return false;
  }
};

// The platform-independent style with outlines that can be seen: its own are 1.6:1 on the grounds of these themes.
class Outlined : public QProxyStyle {
 public:
  Outlined() : QProxyStyle(QStyleFactory::create(QStringLiteral("Fusion"))) {}

  void drawComplexControl(ComplexControl control, const QStyleOptionComplex* option, QPainter* painter,
                          const QWidget* widget) const override {
    QProxyStyle::drawComplexControl(control, option, painter, widget);
    if (control == CC_SpinBox || control == CC_ComboBox) outline(*option, *painter);
  }
  void drawPrimitive(PrimitiveElement element, const QStyleOption* option, QPainter* painter,
                     const QWidget* widget) const override {
    QProxyStyle::drawPrimitive(element, option, painter, widget);
    if (element == PE_FrameLineEdit || element == PE_PanelButtonCommand || element == PE_IndicatorCheckBox)
      outline(*option, *painter);
  }

 private:
  static void outline(const QStyleOption& option, QPainter& p) {
    if (option.state & State_HasFocus) return;  // the style's own frame of the focus
    const Theme& t = Theme::current();
    p.save();
    p.setPen(QPen(option.state & State_Enabled ? t.border : t.line, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(option.rect.adjusted(0, 0, -1, -1));
    p.restore();
  }
};

}  // namespace

const Theme& Theme::current() { return mutableCurrent(); }

// Not by QStyle::unpolish() and polish(): a widget that has a sheet loses its type by them.
void restyle(QWidget* widget) { widget->setStyleSheet(isInSheet(widget) ? sheet() : QString()); }

QFont lettering(double points, bool strong) {
  QFont f(QStringLiteral("Inter"));
  f.setPointSizeF(points);
  f.setWeight(strong ? QFont::DemiBold : QFont::Normal);
  return f;
}

QFont typeface(double points, bool strong) { return lettering(points * Theme::current().scale, strong); }

void Theme::apply(QApplication& application, bool dim, double scale) {
  static bool fontsLoaded = false;
  if (!fontsLoaded) {
    initResources();
    QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/Inter-Regular.otf"));
    QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/Inter-SemiBold.otf"));
    application.setStyle(new Outlined);  // once: it asks for the colours when it draws
    application.installEventFilter(new Dresser(&application));
    fontsLoaded = true;
  }
  Theme t = made(dim);
  const bool otherType = scale != current().scale;
  t.scale = scale;
  mutableCurrent() = t;
  QPalette p;
  p.setColor(QPalette::Window, t.window);
  p.setColor(QPalette::WindowText, t.text);
  p.setColor(QPalette::Base, t.dim ? t.panel.darker(115) : t.panel.lighter(106));
  p.setColor(QPalette::AlternateBase, t.panel);
  p.setColor(QPalette::Text, t.text);
  p.setColor(QPalette::Button, t.panel);
  p.setColor(QPalette::ButtonText, t.text);
  p.setColor(QPalette::Highlight, t.accent);
  p.setColor(QPalette::HighlightedText, t.onAccent);
  p.setColor(QPalette::ToolTipBase, t.panel);
  p.setColor(QPalette::ToolTipText, t.text);
  p.setColor(QPalette::PlaceholderText, t.quiet);
  for (auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
    p.setColor(QPalette::Disabled, role, t.quiet.lighter(t.dim ? 80 : 130));
  application.setPalette(p);
  QString rules = QStringLiteral(
                      "QToolTip { color: %1; background: %2; border: 1px solid %3; padding: 3px; }"
                      "QLabel#answer { font-size: [17]pt; font-weight: 600; }"
                      "QLabel#answer[far=\"true\"] { font-size: [51]pt; }"
                      "QLabel#patternName { font-size: [15]pt; font-weight: 600; }"
                      "QLabel#readAloud { font-size: [11]pt; }"
                      "QPushButton[large=\"true\"], QLineEdit[large=\"true\"] { font-size: [15]pt; font-weight: 600; "
                      "padding: [6]px; }"
                      "QTableWidget { font-size: [9.5]pt; }"
                      "QLabel#quiet { color: %4; }"
                      "QLabel#problem { color: %5; font-weight: 600; }"
                      "QLabel#dayNotice[problem=\"true\"] { color: %5; }"
                      "QLabel#fieldNote { color: %1; background: %2; border: 1px solid %6; border-radius: 3px; "
                      "padding: 2px 8px; font-weight: 600; }"
                      "QPushButton#offer { padding: 1px 10px; border: 1px solid %6; border-radius: 3px; background: "
                      "%2; color: %1; font-weight: 600; }"
                      "QPushButton#stage { padding: [5]px [13]px; border: 1px solid %3; border-radius: 4px; "
                      "background: %2; }"
                      "QPushButton#stage:checked { background: %6; color: %7; border-color: %6; font-weight: 600; }"
                      "QPushButton#ledgeMode { padding: 2px 4px; border: 1px solid %3; border-radius: 3px; background: "
                      "%2; }"
                      "QPushButton#ledgeMode:checked { background: %6; color: %7; border-color: %6; font-weight: 600; }"
                      "QPushButton#ledgeMode:focus { border: 2px solid %1; }"
                      // What stands within a widget that has a sheet takes its type from the sheet.
                      "QTabBar, QTableWidget QHeaderView, QTableWidget QLineEdit, QTableWidget QComboBox, "
                      "QTableWidget QAbstractSpinBox { font-size: [10]pt; }"
                      "QTabBar::tab { padding: [3]px [6]px; margin-right: 2px; border: 1px solid %3; border-bottom: "
                      "none; border-top-left-radius: 4px; border-top-right-radius: 4px; background: %2; color: %1; }"
                      "QTabBar::tab:selected { border-bottom: 3px solid %6; font-weight: 600; }"
                      "QTabBar::tab:focus { border: 2px solid %1; }"
                      "QPushButton#stage:focus { border: 2px solid %1; }")
                      .arg(t.text.name(), t.panel.name(), t.border.name(), t.quiet.name(), t.warn.name(),
                           t.accent.name(), t.onAccent.name());
  // Sizes in square brackets grow with the type.
  static const QRegularExpression size(QStringLiteral("\\[([0-9.]+)\\]"));
  for (QRegularExpressionMatch m = size.match(rules); m.hasMatch(); m = size.match(rules, m.capturedStart()))
    rules.replace(m.capturedStart(), m.capturedLength(),
                  QString::number(wholeAmount(m.captured(1).toStdString()).value_or(10) * scale, 'f', 1));
  sheet() = rules;
  for (QWidget* w : QApplication::allWidgets())
    if (w->testAttribute(Qt::WA_WState_Polished) && isInSheet(w) && w->styleSheet() != rules) w->setStyleSheet(rules);
  // After the sheets: whoever fits a table to its type when its own changes finds that of the table changed.
  if (const QFont type = typeface(10); type != application.font()) {
    application.setFont(type);
    // That tells the widgets only while the program's own event loop runs, which in tests it does not.
    QEvent e(QEvent::ApplicationFontChange);
    for (QWidget* w : QApplication::allWidgets()) QApplication::sendEvent(w, &e);
  }
  // Combo boxes and tables keep their sizes through a change of font; this makes them ask again.
  if (otherType)
    for (QWidget* w : QApplication::allWidgets()) {
      if (!qobject_cast<QComboBox*>(w) && !qobject_cast<QAbstractItemView*>(w)) continue;
      QEvent e(QEvent::StyleChange);
      QApplication::sendEvent(w, &e);
    }
}

}  // namespace easel::app
