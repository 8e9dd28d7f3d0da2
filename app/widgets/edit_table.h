// A table that is typed into: a row for each thing, an empty one at the end for the next.
//
// A row that is complete comes out as words; whoever takes it reads them and sets the rows anew, or refuses, and the
// row stands as it was. While a cell is being typed into nothing is refreshed. Delete takes the chosen row out.
#pragma once

#include <QStringList>
#include <QTableWidget>
#include <vector>

namespace easel::app {

class EditTable : public QTableWidget {
  Q_OBJECT

 public:
  EditTable(const char* name, const QString& accessibleName, const QStringList& heads, QWidget* parent = nullptr);
  void setRows(const std::vector<QStringList>& rows);

 signals:
  /// `row` beyond the last: a new one.
  void rowTyped(int row, const QStringList& words);
  void rowRemoved(int row);

 protected:
  void keyPressEvent(QKeyEvent* e) override;
  void closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) override;

 private:
  void fill();
  std::vector<QStringList> rows_;
  bool filling_ = false;
};

}  // namespace easel::app
