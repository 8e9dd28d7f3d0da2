// A table that is read and chosen from, not typed into: rows of words, each with the whole of it as a tip.
#pragma once

#include <QStringList>
#include <QTableWidget>
#include <vector>

namespace easel::app {

QTableWidget* plainTable(const char* name, const QString& accessibleName, const QStringList& heads, QWidget* parent);
/// In the place of what stood there; as many words in each row as there are heads. `none` stands where there is no row.
void fillRows(QTableWidget* table, const std::vector<QStringList>& rows, const QString& none = {});

}  // namespace easel::app
