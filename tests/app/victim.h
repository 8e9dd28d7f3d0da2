// A session of its own that is killed: a disabled test of this program, run in a process that shares our state folder.
#pragma once

#include <gtest/gtest.h>
#include <signal.h>

#include <QCoreApplication>
#include <QProcess>

#include "eventually.h"

namespace easel::app {

class Victim {
 public:
  /// `test`: of DISABLED_Victim.
  explicit Victim(const QString& test) {
    process_.setProgram(QCoreApplication::applicationFilePath());
    process_.setArguments({"--gtest_filter=DISABLED_Victim." + test, "--gtest_also_run_disabled_tests"});
    QProcessEnvironment env = QProcessEnvironment::systemEnvironment();
    env.insert("EASEL_VICTIM_STATE", qEnvironmentVariable("XDG_STATE_HOME"));
    env.insert("EASEL_VICTIM_DATA", qEnvironmentVariable("XDG_DATA_HOME"));
    process_.setProcessEnvironment(env);
    process_.start();
  }
  QByteArray said() { return process_.readAllStandardOutput(); }
  /// Waits for more of what it says; false when it has ended.
  bool waits() { return process_.waitForReadyRead(kPatience); }
  void killNine() {
    ::kill(pid_t(process_.processId()), SIGKILL);
    process_.waitForFinished();
  }

 private:
  QProcess process_;
};

}  // namespace easel::app
