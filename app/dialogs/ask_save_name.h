// What is asked before something is saved or goes: the same questions for plans, days, pictures, tables and kits.
#pragma once

#include <QString>
#include <filesystem>

class QWidget;

namespace easel::app {

/// Asks for a name, puts `ending` on where it is missing, and only then asks whether a file of that name is to be
/// overwritten; `own`, the file that is being saved anyway, is not asked for. Empty: given up.
QString askSaveName(QWidget* parent, const QString& title, const QString& start, const QString& filter,
                    const QString& ending, const std::filesystem::path& own = {});

enum class BeforeItGoes { Save, Discard, Stay };
/// Of what has changes that are not saved.
BeforeItGoes askBeforeItGoes(QWidget* parent, const QString& name);

enum class OverChanged { Overwrite, SaveAs, Leave };
/// Of a file that somebody else has written since it was opened here.
OverChanged askOverChanged(QWidget* parent, const std::filesystem::path& file);

}  // namespace easel::app
