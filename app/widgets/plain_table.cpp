#include "widgets/plain_table.h"

#include <QEvent>
#include <QHeaderView>

namespace easel::app {
namespace {

void fitRows(QTableWidget* table) {
  table->verticalHeader()->setDefaultSectionSize(QFontMetrics(table->font()).height() + 6);
}

// Rows stay as high as their words when the type changes.
class Rows : public QTableWidget {
 public:
  using QTableWidget::QTableWidget;

 protected:
  void changeEvent(QEvent* e) override {
    QTableWidget::changeEvent(e);
    if (e->type() == QEvent::FontChange) fitRows(this);
  }
};

}  // namespace

QTableWidget* plainTable(const char* name, const QString& accessibleName, const QStringList& heads, QWidget* parent) {
  auto* table = new Rows(0, int(heads.size()), parent);
  table->setObjectName(name);
  table->setAccessibleName(accessibleName);
  table->setHorizontalHeaderLabels(heads);
  table->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table->setSelectionBehavior(QAbstractItemView::SelectRows);
  table->verticalHeader()->hide();
  table->horizontalHeader()->setStretchLastSection(true);
  return table;
}

void fillRows(QTableWidget* table, const std::vector<QStringList>& rows, const QString& none) {
  const bool empty = rows.empty() && !none.isEmpty();
  table->setRowCount(empty ? 1 : int(rows.size()));
  const auto put = [&](int row, int column, const QString& words) {
    auto* cell = new QTableWidgetItem(words);
    cell->setToolTip(words);
    table->setItem(row, column, cell);
  };
  for (int column = 0; empty && column < table->columnCount(); ++column) put(0, column, column ? QString() : none);
  for (int row = 0; row < int(rows.size()); ++row)
    for (int column = 0; column < int(rows[size_t(row)].size()); ++column) put(row, column, rows[size_t(row)][column]);
  fitRows(table);
  for (int column = 0; column + 1 < table->columnCount(); ++column) table->resizeColumnToContents(column);
}

}  // namespace easel::app
