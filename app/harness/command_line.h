// The command line of the window: files to open, and what to show when its picture is taken or its time measured.
#pragma once

#include <QCommandLineParser>
#include <filesystem>
#include <vector>

namespace easel::app {

/// Adds every option; for all but --version and --help see docs/screenshots and docs/speed.md.
void addOptions(QCommandLineParser& options);
/// The files that were named, as bytes: names need not be text.
std::vector<std::filesystem::path> namedFiles(const QCommandLineParser& options, int argc, char** argv);

}  // namespace easel::app
