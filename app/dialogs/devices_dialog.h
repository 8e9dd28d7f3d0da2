// Devices: which have joined, how one joins, and simulated ones to try a run with. Not modal.
#pragma once

#include <QDialog>

#include "devices/device_hub.h"

class QLabel;
class QListWidget;
class QPushButton;
class QSpinBox;
class QTableWidget;

namespace easel::app {

class DevicesDialog : public QDialog {
  Q_OBJECT

 public:
  explicit DevicesDialog(DeviceHub* hub, QWidget* parent = nullptr);

 private:
  void refresh();
  DeviceHub* hub_;
  QLabel* state_;
  QTableWidget* table_;
  QListWidget* notes_;
  QSpinBox* seed_;
  QPushButton* end_;
};

}  // namespace easel::app
