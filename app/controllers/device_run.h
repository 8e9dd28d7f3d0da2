// A run with devices: the trigger has just the lights on that a step reads, the meter is asked, its answer is the
// reading. Whatever fails is said, and the run goes on by hand. Interface thread.
#pragma once

#include <QObject>

#include "controllers/metering_run.h"
#include "devices/device_hub.h"

namespace easel::app {

class DeviceRun : public QObject {
  Q_OBJECT

 public:
  DeviceRun(MeteringRun* run, DeviceHub* hub, QObject* parent = nullptr);
  /// A meter that can be asked has joined.
  bool meterThere() const;
  bool triggerThere() const;
  bool waiting() const { return waiting_; }
  /// Lights, fire, read.
  void read();
  bool cameraThere() const;
  /// Lights, and a picture of them.
  void take();

 signals:
  void changed();
  void said(const QString& sentence, bool problem);
  void pictured(const QString& file);
  void keyPressed();                  ///< on a remote
  void called(const QString& words);  ///< a reading, at a remote

 private:
  /// Then `then`, when all heads have answered.
  void setLights(std::function<void()> then);
  void ask(int step);
  void failed(const QString& why);
  MeteringRun* run_;
  DeviceHub* hub_;
  int step_ = -1;  ///< whose lights are on
  bool waiting_ = false;
};

}  // namespace easel::app
