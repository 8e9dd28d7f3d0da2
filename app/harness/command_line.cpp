#include "harness/command_line.h"

#include <QApplication>

namespace easel::app {

void addOptions(QCommandLineParser& options) {
  options.setApplicationDescription(
      QApplication::translate("main", "Plans multi-light studio portraits and predicts the picture."));
  options.addHelpOption();
  options.addVersionOption();
  options.addPositionalArgument("plan", QApplication::translate("main", "Plan, day or sheet to open."));
  options.addOption({"picture", "Write a picture of the main window to FILE and end.", "FILE"});
  options.addOption({"size", "Window size for --picture.", "WxH", "1280x800"});
  options.addOption({"stage", "Stage for --picture: Set, Build, Meter, Run or Read, or its number from 0.", "N", "1"});
  options.addOption({"page", "Page of the Build or Read card for --picture, by its name.", "NAME"});
  options.addOption({"shelf", "The lighting looks for --picture, instead of the main window."});
  options.addOption({"simulate", "Start a simulated meter, trigger and camera in the studio of that number.", "N"});
  options.addOption({"day", "A shooting day for --picture, instead of the main window.", "FILE"});
  options.addOption({"sheet", "The plan's sheet for --picture: whole, stand or growing.", "KIND"});
  options.addOption({"journal", "The journal for --picture, instead of the main window."});
  options.addOption({"text", "Size of the text in points for --picture.", "N", "10"});
  options.addOption({"fill", "One view fills the window for --picture: easel, dial, rail, ladder.", "NAME"});
  options.addOption({"press", "Keys of the menus to press before --picture, one after the other: K,F8,W.", "KEYS"});
  options.addOption({"run",
                     "Begin a metering run for --picture and answer its steps: \"nothing,,f/8\"; empty: the key.",
                     "READINGS"});
  options.addOption({"far", "The arrangement for reading from a distance, for --picture."});
  options.addOption({"hasty", "Take the picture of the window as soon as everything stands in it, however young."});
  options.addOption({"dim", "Dim studio theme for --picture."});
  options.addOption({"timing", "Print when the first picture stood, and end."});
}

std::vector<std::filesystem::path> namedFiles(const QCommandLineParser& options, int argc, char** argv) {
  std::vector<std::filesystem::path> files;
  for (const QString& file : options.positionalArguments())
    for (int i = 1; i < argc; ++i)
      if (QString::fromLocal8Bit(argv[i]) == file) {
        files.emplace_back(argv[i]);
        break;
      }
  return files;
}

}  // namespace easel::app
