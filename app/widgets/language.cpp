#include "widgets/language.h"

#include <QCoreApplication>
#include <QTranslator>

#include "files/places.h"
#include "spoken/say.h"

namespace easel::app {

void speakLanguageOf(const QLocale& locale) {
  const QString folder = QString::fromStdString((ownFolder() / "translations").string());
  bool core = false;
  for (const char* part : {"app", "core"}) {
    auto* translator = new QTranslator(qApp);
    if (!translator->load(locale, QString::fromLatin1(part), "_", folder)) {
      delete translator;
      continue;
    }
    QCoreApplication::installTranslator(translator);
    core |= part == std::string_view("core");
  }
  if (core)
    speakThrough([](std::string_view english, int count) {
      // Qt has the number of forms that the language has; the text itself holds no %n.
      return QCoreApplication::translate("core", std::string(english).c_str(), nullptr, count).toStdString();
    });
}

}  // namespace easel::app
