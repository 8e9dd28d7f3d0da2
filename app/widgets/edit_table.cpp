#include "widgets/edit_table.h"

#include <QHeaderView>
#include <QKeyEvent>

namespace easel::app {

EditTable::EditTable(const char* name, const QString& accessibleName, const QStringList& heads, QWidget* parent)
    : QTableWidget(0, int(heads.size()), parent) {
  setObjectName(name);
  setAccessibleName(accessibleName);
  setHorizontalHeaderLabels(heads);
  verticalHeader()->hide();
  horizontalHeader()->setStretchLastSection(true);
  setSelectionMode(QAbstractItemView::SingleSelection);
  setTabKeyNavigation(false);
  setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed |
                  QAbstractItemView::AnyKeyPressed);
  connect(this, &QTableWidget::itemChanged, this, [this](QTableWidgetItem* item) {
    if (filling_) return;
    QStringList words;
    for (int c = 0; c < columnCount(); ++c)
      words << (this->item(item->row(), c) ? this->item(item->row(), c)->text().trimmed() : QString());
    if (item->row() >= int(rows_.size()) && words.join(QString()).isEmpty()) return;
    // After the editor has closed, for what follows may fill the table anew.
    QMetaObject::invokeMethod(
        this,
        [this, row = item->row(), words] {
          emit rowTyped(row, words);
          fill();
        },
        Qt::QueuedConnection);
  });
  fill();
}

void EditTable::setRows(const std::vector<QStringList>& rows) {
  rows_ = rows;
  if (state() != QAbstractItemView::EditingState) fill();
}

void EditTable::fill() {
  filling_ = true;
  const int row = currentRow(), column = currentColumn();
  setRowCount(int(rows_.size()) + 1);
  for (int r = 0; r <= int(rows_.size()); ++r)
    for (int c = 0; c < columnCount(); ++c) {
      const QString words = r < int(rows_.size()) && c < rows_[size_t(r)].size() ? rows_[size_t(r)][c] : QString();
      if (!item(r, c)) setItem(r, c, new QTableWidgetItem);
      item(r, c)->setText(words);
      item(r, c)->setToolTip(r < int(rows_.size()) ? words : tr("Type here for one more."));
    }
  for (int c = 0; c + 1 < columnCount(); ++c) resizeColumnToContents(c);
  setCurrentCell(std::min(row, rowCount() - 1), column);
  filling_ = false;
}

void EditTable::closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) {
  QTableWidget::closeEditor(editor, hint);
  fill();
}

void EditTable::keyPressEvent(QKeyEvent* e) {
  if (e->key() == Qt::Key_Delete && currentRow() >= 0 && currentRow() < int(rows_.size())) {
    emit rowRemoved(currentRow());
    return;
  }
  QTableWidget::keyPressEvent(e);
}

}  // namespace easel::app
