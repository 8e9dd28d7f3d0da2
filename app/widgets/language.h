// The language of the window and, through say(), of the core.
#pragma once

#include <QLocale>

namespace easel::app {

/// Loads app_LANGUAGE.qm and core_LANGUAGE.qm from "translations" in the user's own folder, as far as they are there;
/// the English stands for what they lack. Before the first window: names of things are asked for once. CONTRIBUTING.md
/// says how they are made.
void speakLanguageOf(const QLocale& locale);

}  // namespace easel::app
