// The name to save under: one dialog for plans, pictures, tables and kits.
#pragma once

#include <QString>
#include <filesystem>

class QWidget;

namespace easel::app {

/// Asks for a name, puts `ending` on where it is missing, and only then asks whether a file of that name is to be
/// overwritten; `own`, the file that is being saved anyway, is not asked for. Empty: given up.
QString askSaveName(QWidget* parent, const QString& title, const QString& start, const QString& filter,
                    const QString& ending, const std::filesystem::path& own = {});

}  // namespace easel::app
