// The run with devices: the real window, the real simulated programs, the socket between them; and a watched folder.
#include <gtest/gtest.h>
#include <sys/stat.h>

#include <QLocalSocket>
#include <fstream>

#include "controllers/device_run.h"
#include "formats/photograph.h"
#include "picture/overlays.h"
#include "run_support.h"

namespace easel::app {
namespace {

// The real window, the real programs, a studio whose secrets nobody here knows.
struct WithDevices : Running {
  DeviceHub& hub = DeviceHub::current();
  test::TemporaryFolder folder;
  WithDevices(quint64 seed, const std::string& meterScript = {}, const std::string& triggerScript = {}) {
    const auto script = [&](const char* name, const std::string& text) {
      if (text.empty()) return QString();
      const auto file = folder.path / name;
      std::ofstream(file) << text;
      return QString::fromStdString(file.string());
    };
    EXPECT_TRUE(hub.simulate(DeviceKind::Meter, seed, script("meter", meterScript), true)) << qPrintable(hub.problem());
    EXPECT_TRUE(hub.simulate(DeviceKind::Trigger, seed, script("trigger", triggerScript), true));
    EXPECT_TRUE(eventually([&] { return hub.can(DeviceKind::Meter, "read") && hub.can(DeviceKind::Trigger, "fire"); }));
  }
  ~WithDevices() {
    hub.endSimulated();
    EXPECT_TRUE(eventually([&] { return hub.devices().empty(); }));
  }
  // The key, and what it sets off.
  void go() {
    const int tries = now() ? now()->tries : 0;
    const bool reads = card->keyDoes() == RunCard::KeyDoes::Read;
    press(Qt::Key_Space);
    if (reads) {
      EXPECT_TRUE(eventually([&] { return now() && now()->tries > tries; })) << qPrintable(window.notice());
    }
    EXPECT_TRUE(calm());
  }
  std::optional<StepReading> now() { return course().over() ? std::nullopt : course().reading(course().at()); }
};

TEST(RunWithDevices, AFourLightPlanIsSetInAtMostTwentyFivePresses) {
  WithDevices r(4711);
  EXPECT_EQ(r.key(), "Fire and read");
  while (!r.course().over() && r.presses < 40) r.go();
  EXPECT_TRUE(r.course().over());
  EXPECT_TRUE(r.course().open().empty());
  EXPECT_LE(r.presses, 25) << "from the first key to all set";
  std::printf("  %d presses\n", r.presses);
  // Every light is where it should be, by the meter of that studio.
  for (size_t i = 0; i < r.course().steps().size(); ++i)
    if (r.course().steps()[i].kind == RunStep::Kind::Alone) {
      EXPECT_NE(r.course().reading(i)->judgement.verdict, Judgement::Verdict::Implausible) << i;
    }
}

TEST(RunWithDevices, AMisfireIsNamedAndTheSecondReadingSettlesIt) {
  WithDevices r(12, {}, "1 misfire\n");
  r.go();  // all off: no flash
  r.go();
  r.go();  // the key; nothing comes
  EXPECT_EQ(r.now()->judgement.verdict, Judgement::Verdict::Implausible);
  ASSERT_FALSE(r.now()->judgement.causes.empty());
  EXPECT_EQ(r.now()->judgement.causes[0].what, Misreading::NothingFired);
  r.go();
  EXPECT_NE(r.now()->judgement.verdict, Judgement::Verdict::Implausible) << qPrintable(r.card->step()->spoken());
}

// First two rounds teach what this studio gives; then one thing after the other goes wrong in the programs beside it.
TEST(RunWithDevices, InAStudioThatIsKnownEachMishapIsNamedFirst) {
  WithDevices r(3, "12 half-way\n13 in-shadow\n", "9 not-recycled\n11 misfire\n14 wrong-group\n");
  const auto readAt = [&](int step) {
    r.run->goTo(step);
    ASSERT_TRUE(r.calm());
    const int tries = r.now() ? r.now()->tries : 0;
    r.card->findChild<QLineEdit*>("runSaid")->clear();
    r.window.findChild<DeviceRun*>()->read();
    ASSERT_TRUE(eventually([&] { return r.now() && r.now()->tries > tries; })) << qPrintable(r.window.notice());
    ASSERT_TRUE(r.calm());
  };
  for (int round = 0; round < 2; ++round)
    for (int step : {1, 3, 4, 5}) readAt(step);
  r.run->end();
  ASSERT_TRUE(r.calm());
  r.begin();
  EXPECT_LT(r.course().steps()[1].within, 0.16) << "eight readings have taught it";
  const auto cause = [&](int step) {
    readAt(step);
    const Judgement j = r.now()->judgement;
    return j.causes.empty() ? std::optional<Misreading>() : std::optional(j.causes[0].what);
  };
  EXPECT_EQ(cause(1), Misreading::NotRecycled) << qPrintable(r.card->step()->spoken());
  EXPECT_EQ(cause(1), std::nullopt) << "right on the second try: " << qPrintable(r.card->step()->spoken());
  EXPECT_EQ(cause(1), Misreading::NothingFired) << qPrintable(r.card->step()->spoken());
  EXPECT_EQ(cause(1), Misreading::HalfWay) << qPrintable(r.card->step()->spoken());
  EXPECT_EQ(cause(1), Misreading::InShadow) << qPrintable(r.card->step()->spoken());
  EXPECT_EQ(cause(3), Misreading::WrongGroup) << qPrintable(r.card->step()->spoken());
}

TEST(RunWithDevices, AMeterHalfWayIsNamed) {
  WithDevices r(12, "2 half-way\n");
  r.go();
  r.go();
  r.go();
  ASSERT_EQ(r.now()->judgement.verdict, Judgement::Verdict::Implausible) << qPrintable(r.card->step()->spoken());
  EXPECT_EQ(r.now()->judgement.causes[0].what, Misreading::HalfWay) << qPrintable(r.card->step()->spoken());
}

TEST(RunWithDevices, ATestPictureStandsBesideThePrediction) {
  WithDevices r(12);
  ASSERT_TRUE(r.hub.simulate(DeviceKind::Camera, 12, {}, true));
  ASSERT_TRUE(eventually([&] { return r.hub.can(DeviceKind::Camera, "take"); }));
  r.run->goTo(2);
  ASSERT_TRUE(r.calm());
  EXPECT_EQ(r.key(), "Take the picture");
  r.press();
  ASSERT_TRUE(eventually([&] { return r.window.bench().easel->hasBeside(); })) << qPrintable(r.window.notice());
  EXPECT_TRUE(r.window.notice().contains("are those of the plan")) << qPrintable(r.window.notice());
  EXPECT_EQ(r.card->keyDoes(), RunCard::KeyDoes::GoOn);
  // A click in it compares it with the prediction at the same place: the forehead, in the same light.
  QString words;
  QObject::connect(r.window.bench().easel, &EaselView::besideRead, &r.window, [&](const QString& w) { words = w; });
  const QRectF beside = r.window.bench().easel->besideRect();
  QTest::mouseClick(r.window.bench().easel, Qt::LeftButton, {},
                    QPointF(beside.center().x(), beside.top() + 0.36 * beside.height()).toPoint());
  EXPECT_TRUE(words.contains("the photograph is")) << qPrintable(words);
}

TEST(WatchedFolder, ShowsWhatArrivesAndChecksHowItWasTaken) {
  test::TemporaryFolder folder;
  const auto picture = [&](const char* name, int grey) {
    QImage own(40, 50, QImage::Format_RGB32);
    own.fill(qRgb(grey, grey, grey));
    EXPECT_TRUE(own.save(QString::fromStdString((folder.path / name).string())));
  };
  picture("before.png", 20);
  Shown s;
  s.window.beside()->watch(QString::fromStdString(folder.path.string()));
  EXPECT_FALSE(s.window.bench().easel->hasBeside()) << "what was there before is left alone";
  const int card = greyCardValue(s.window.document()->plan().camera, 0);  // through a lens focused near: less than 118
  picture("note.png", card);
  std::filesystem::rename(folder.path / "note.png", folder.path / "taken.tmp");
  const Camera& cam = s.window.document()->plan().camera;
  std::filesystem::rename(folder.path / "taken.tmp", folder.path / "taken.png");
  writeSettings(folder.path / "taken.png", {cam.shutter, cam.shootingAperture(), cam.iso * 2});
  ASSERT_TRUE(eventually([&] { return s.window.bench().easel->hasBeside(); }));
  ASSERT_TRUE(eventually([&] { return s.window.notice().contains("beside the easel"); }));
  EXPECT_TRUE(s.window.notice().contains("the plan says 100")) << qPrintable(s.window.notice());
  EXPECT_TRUE(s.window.notice().contains("+1.0 stops of flash")) << qPrintable(s.window.notice());
  QString words;
  QObject::connect(s.window.bench().easel, &EaselView::besideRead, &s.window, [&](const QString& w) { words = w; });
  QTest::mouseClick(s.window.bench().easel, Qt::LeftButton, {},
                    s.window.bench().easel->besideRect().center().toPoint());
  EXPECT_TRUE(words.contains(QStringLiteral("Photograph %1: as a card spot on").arg(card))) << qPrintable(words);
}

TEST(WatchedFolder, AnIncompletePictureIsShownWhenItsRestHasCome) {
  test::TemporaryFolder folder;
  QImage own(400, 500, QImage::Format_RGB32);
  for (int y = 0; y < 500; ++y)
    for (int x = 0; x < 400; ++x) own.setPixel(x, y, qRgb(x * 7 % 256, y * 5 % 256, x * y % 256));
  const auto whole = folder.path / "whole.dat";
  ASSERT_TRUE(own.save(QString::fromStdString(whole.string()), "PNG"));
  const std::string bytes = readWholeFile(whole);
  WatchedFolder watched;
  QString arrived, failed;
  QObject::connect(&watched, &WatchedFolder::arrived, [&](const QString& f) { arrived = f; });
  QObject::connect(&watched, &WatchedFolder::failed, [&](const QString& why) { failed = why; });
  watched.watch(QString::fromStdString(folder.path.string()));
  std::ofstream(folder.path / "taken.png") << bytes.substr(0, 40);
  ASSERT_TRUE(eventually([&] { return !failed.isEmpty(); })) << "it is said that it is no picture yet";
  EXPECT_TRUE(arrived.isEmpty());
  std::ofstream(folder.path / "taken.png") << bytes;
  ASSERT_TRUE(eventually([&] { return !arrived.isEmpty(); }));
}

TEST(WatchedFolder, ThatIsLetGoOfLooksNowhere) {
  test::TemporaryFolder folder;
  WatchedFolder watched;
  int told = 0;
  QObject::connect(&watched, &WatchedFolder::arrived, [&] { ++told; });
  QObject::connect(&watched, &WatchedFolder::failed, [&] { ++told; });
  watched.watch(QString::fromStdString(folder.path.string()));
  std::ofstream(folder.path / "taken.png") << "no picture";
  watched.watch({});
  QCoreApplication::processEvents();
  Strand::finishAll();
  QCoreApplication::processEvents();
  EXPECT_EQ(told, 0);
  EXPECT_TRUE(watched.folder().isEmpty());
}

// A camera, or whoever, may name what is no file: nothing waits for it.
TEST(WatchedFolder, APipeIsNoPicture) {
  test::TemporaryFolder folder;
  const auto pipe = folder.path / "taken.png";
  ASSERT_EQ(::mkfifo(pipe.c_str(), 0600), 0);
  QString why;
  EXPECT_TRUE(readPhotograph(QString::fromStdString(pipe.string()), &why).isNull());
  EXPECT_TRUE(why.contains("not an ordinary file")) << qPrintable(why);
  EXPECT_THROW(settingsOfPhotograph(pipe), std::runtime_error);
}

TEST(WatchedFolder, AFolderThatIsNotThereIsSaid) {
  Shown s(false);
  s.window.beside()->watch("/nowhere/at/all");
  EXPECT_TRUE(eventually([&] { return s.window.notice().contains("cannot be watched"); }))
      << qPrintable(s.window.notice());
}

// Connections that say nothing have no place that a device wants.
TEST(RunWithDevices, SilentConnectionsLockNobodyOut) {
  DeviceHub& hub = DeviceHub::current();
  ASSERT_TRUE(hub.listen());
  std::vector<std::unique_ptr<QLocalSocket>> silent;
  for (int i = 0; i < 20; ++i) {
    silent.push_back(std::make_unique<QLocalSocket>());
    silent.back()->connectToServer(hub.socket());
    ASSERT_TRUE(silent.back()->waitForConnected());
    QCoreApplication::processEvents();
  }
  QLocalSocket remote;
  remote.connectToServer(hub.socket());
  ASSERT_TRUE(remote.waitForConnected());
  remote.write("{\"hello\": \"jolly-easel-wire\", \"version\": 1, \"device\": \"remote\", \"name\": \"phone\"}\n");
  ASSERT_TRUE(eventually([&] { return hub.devices().size() == 1; }));
  remote.disconnectFromServer();
  ASSERT_TRUE(eventually([&] { return hub.devices().empty(); }));
}

// Who floods is let go, and the window lives meanwhile: no event takes longer than a few lines do.
TEST(RunWithDevices, AFloodOfNonsenseIsLetGoOf) {
  DeviceHub& hub = DeviceHub::current();
  ASSERT_TRUE(hub.listen());
  QStringList noted;
  QObject here;
  QObject::connect(&hub, &DeviceHub::noted, &here, [&](const QString& s, bool) { noted << s; });
  QLocalSocket flood;
  bool gone = false;
  QObject::connect(&flood, &QLocalSocket::disconnected, [&] { gone = true; });
  flood.connectToServer(hub.socket());
  ASSERT_TRUE(flood.waitForConnected());
  for (int i = 0; i < 50; ++i) flood.write(QByteArray("{]\n").repeated(1000));
  ASSERT_TRUE(eventually([&] { return gone; }));
  ASSERT_TRUE(eventually([&] { return noted.filter("was disconnected").size() == 1; }));
  EXPECT_LE(noted.size(), 5) << "said, not said fifty thousand times";
}

// A session that does not answer at the moment has the devices all the same.
TEST(RunWithDevices, TheSocketIsItsSessionsAsLongAsThatLives) {
  DeviceHub& hub = DeviceHub::current();
  ASSERT_TRUE(hub.listen());
  EXPECT_FALSE(HeldFile::hold(hub.socket() + ".lock")) << "another session finds it held";
}

// A phone's large key and a reading that is called: nothing else is needed.
TEST(RunWithDevices, ARemoteDrivesTheRun) {
  Running r;
  ASSERT_TRUE(DeviceHub::current().listen());
  QLocalSocket remote;
  remote.connectToServer(DeviceHub::current().socket());
  ASSERT_TRUE(remote.waitForConnected());
  remote.write("{\"hello\": \"jolly-easel-wire\", \"version\": 1, \"device\": \"remote\", \"name\": \"phone\"}\n");
  remote.write("{\"tell\": \"said\", \"words\": \"too dark\"}\n");
  ASSERT_TRUE(eventually([&] { return r.course().reading(0).has_value(); }));
  ASSERT_TRUE(r.calm());
  remote.write("{\"tell\": \"key\"}\n");
  ASSERT_TRUE(eventually([&] { return r.course().at() == 1; }));
  r.window.setStage(0);
  remote.write("{\"tell\": \"key\"}\n{\"tell\": \"said\", \"words\": \"eight\"}\n{\"nonsense\": 1}\n");
  ASSERT_TRUE(eventually([&] { return r.window.notice().contains("not understood"); }));
  EXPECT_FALSE(r.course().reading(1)) << "a key does nothing where the run is not looked at";
  remote.disconnectFromServer();
  ASSERT_TRUE(eventually([&] { return DeviceHub::current().devices().empty(); }));
}

TEST(RunWithDevices, AMeterThatGoesIsSaidAndTheRunGoesOnByHand) {
  WithDevices r(12);
  r.go();
  r.hub.endSimulated();
  ASSERT_TRUE(eventually([&] { return r.hub.devices().empty(); }));
  EXPECT_TRUE(r.window.notice().contains("has disconnected")) << qPrintable(r.window.notice());
  r.press();
  EXPECT_EQ(r.card->keyDoes(), RunCard::KeyDoes::Read);
  EXPECT_EQ(r.key(), "Take the reading");
  r.say(r.spelled(r.course().step().expected));
  EXPECT_EQ(r.course().reading(1)->tries, 1);
}

TEST(RunWithDevices, TheSocketIsThisUsersAlone) {
  ASSERT_TRUE(DeviceHub::current().listen());
  const auto mode = std::filesystem::status(DeviceHub::current().socket().toStdString()).permissions();
  EXPECT_EQ(mode & (std::filesystem::perms::group_all | std::filesystem::perms::others_all),
            std::filesystem::perms::none);
}

// Whatever comes over the socket, the window stands.
TEST(RunWithDevices, NonsenseOnTheSocketIsNotedAndLeft) {
  Running r;
  ASSERT_TRUE(DeviceHub::current().listen());
  QLocalSocket socket;
  socket.connectToServer(DeviceHub::current().socket());
  ASSERT_TRUE(socket.waitForConnected());
  socket.write("GET / HTTP/1.1\n{\"hello\": 3}\n{\"tell\": \"reading\", \"fNumber\": 8}\n");
  ASSERT_TRUE(eventually([&] { return r.window.notice().contains("left"); }));
  EXPECT_FALSE(r.course().reading(0)) << "who has not said hello is not heard";
  socket.write(
      "{\"hello\": \"jolly-easel-wire\", \"version\": 1, \"device\": \"meter\", \"name\": \"own\"}\n"
      "{\"tell\": \"reading\", \"fNumber\": -8}\n{\"tell\": \"reading\", \"fNumber\": 0.9}\n");
  ASSERT_TRUE(eventually([&] { return r.course().reading(0).has_value(); }));
  EXPECT_NEAR(r.course().reading(0)->fNumber, 0.9, 1e-9) << "a meter that speaks";
  EXPECT_TRUE(r.calm());
  socket.disconnectFromServer();
  ASSERT_TRUE(eventually([&] { return DeviceHub::current().devices().empty(); }));
}

}  // namespace
}  // namespace easel::app
