// easel-device: one simulated device, the kind that its first argument names.
#include <cstdio>

#include "stand_in.h"

int main(int argc, char** argv) {
  QApplication application(argc, argv);
  using namespace easel::standins;
  const QString kind = QApplication::arguments().value(1);
  const auto make = kind == "meter"     ? makeMeter
                    : kind == "trigger" ? makeTrigger
                    : kind == "camera"  ? makeCamera
                                        : nullptr;
  if (!make) {
    std::fprintf(stderr, "easel-device: the first argument names the device: meter, trigger or camera.\n");
    return 2;
  }
  const auto device = make(optionsOf(application, kind));
  return QApplication::exec();
}
