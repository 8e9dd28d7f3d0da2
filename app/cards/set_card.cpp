#include "cards/set_card.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QTabWidget>
#include <cmath>
#include <stdexcept>

#include "balance/backdrop_tone.h"
#include "exposure/ambient.h"
#include "exposure/depth_of_field.h"
#include "exposure/shutter.h"
#include "exposure/stops.h"
#include "gear/panel_kinds.h"
#include "plan/framing.h"
#include "plan/gaze.h"
#include "plan/lens.h"
#include "plan/subject.h"
#include "plan/sync.h"
#include "sitters/colouring.h"
#include "sitters/people.h"
#include "sitters/sitter_file.h"
#include "spoken/number.h"
#include "widgets/wording.h"

namespace easel::app {
namespace {
// Degrees as they are said to a sitter; down is positive in the plan.
NumberField::Words chinWords() {
  return {[](double v) {
            if (std::abs(v) < 0.5) return SetCard::tr("level");
            return (v > 0 ? SetCard::tr("%1° down") : SetCard::tr("%1° up")).arg(std::lround(std::abs(v)));
          },
          [](const QString& t) {
            Spoken said(QString(t).remove(QChar(0xb0)).toStdString());
            const auto word = [&](const QString& w) { return said.take(w.toLower().toStdString()); };
            const auto degrees = said.amount();
            const bool level = !degrees && word(SetCard::tr("level"));
            const bool up = degrees && word(SetCard::tr("up"));
            if (degrees && !up) word(SetCard::tr("down"));
            if ((!degrees && !level) || !said.atEnd())
              throw std::invalid_argument(
                  SetCard::tr("\"%1\" is no way to hold a chin. Write 5 up, 5 down or level.").arg(t).toStdString());
            return level ? 0.0 : up ? -*degrees : *degrees;
          },
          false};
}

const QString kDegrees = QStringLiteral("\u00b0");

}  // namespace

SetCard::SetCard(ViewedPlan* viewed, QWidget* parent) : Card(viewed, parent) {
  sitterPage();
  posePage();
  cameraPage();
  backdropPage();
  roomPage();
  pages_->setObjectName("setPages");
  refresh();
}

// Each part of the plan is edited as a whole value: the inverse is the old one.
std::function<double()> SetCard::sitterIs(double SitterPlace::*m) const {
  return [=, this] { return viewed_->plan().sitter.*m; };
}
std::function<void(double)> SetCard::setSitter(const QString& label, double SitterPlace::*m) {
  return [=, this](double v) {
    SitterPlace s = viewed_->plan().sitter;
    s.*m = v;
    viewed_->perform(SetSitter{s}, label, "sitter-" + label);
  };
}
std::function<double()> SetCard::cameraIs(double Camera::*m) const {
  return [=, this] { return viewed_->plan().camera.*m; };
}
std::function<void(double)> SetCard::setCamera(const QString& label, double Camera::*m) {
  return [=, this](double v) {
    Camera c = viewed_->plan().camera;
    c.*m = v;
    viewed_->perform(SetCamera{c}, label, "camera-" + label);
  };
}
std::function<double()> SetCard::roomIs(double Room::*m) const {
  return [=, this] { return viewed_->plan().room.*m; };
}
std::function<void(double)> SetCard::setRoom(const QString& label, double Room::*m) {
  return [=, this](double v) {
    Room r = viewed_->plan().room;
    r.*m = v;
    viewed_->perform(SetRoom{r}, label, "room-" + label);
  };
}

QComboBox* SetCard::wears(int row, int column, const QString& label, const Choices& choices,
                          std::string SitterPlace::*m, const QString& done, const char* name) {
  auto* choice = addChoice(
      row, column, label, choices, [=, this] { return QString::fromStdString(viewed_->plan().sitter.*m); },
      [=, this](const QString& id) {
        SitterPlace s = viewed_->plan().sitter;
        s.*m = id.toStdString();
        viewed_->perform(SetSitter{s}, done);
      });
  choice->setObjectName(name);
  return choice;
}

// As high as it is, and the fields as wide as they can be.
void SetCard::endPage(int row) {
  grid_->setRowStretch(row, 1);
  for (int c : {1, 3}) grid_->setColumnStretch(c, 1);
}

void SetCard::sitterPage() {
  startPage("Sitter", tr("Sitter"));
  auto* who = wears(0, 0, tr("&Sitter"), choicesOf(sitterCatalogue()), &SitterPlace::id, tr("Sitter"), "sitter");
  for (int i = 0; i < who->count(); ++i)
    who->setItemData(i, QString::fromStdString(sitterCatalogue()[size_t(i)].description), Qt::ToolTipRole);
  wears(1, 0, tr("Ha&ir colour"), choicesOf(hairColours()), &SitterPlace::hairColour, tr("Hair colour"), "hairColour");
  wears(2, 0, tr("Hair st&yle"), choicesOf(hairStyles()), &SitterPlace::hairStyle, tr("Hair style"), "hairStyle");
  wears(3, 0, tr("S&kin tone"), choicesOf(skinTones()), &SitterPlace::skinTone, tr("Skin tone"), "skinTone");
  wears(5, 0, tr("&Beard"), choicesOf(beards()), &SitterPlace::beard, tr("Beard"), "beard");
  wears(4, 0, tr("H&at"), choicesOf(hats()), &SitterPlace::hat, tr("Hat"), "hat");
  wears(0, 1, tr("&Outfit"), choicesOf(outfits()), &SitterPlace::outfit, tr("Outfit"), "outfit");
  wears(2, 1, tr("Cloth co&lour"), choicesOf(clothColours()), &SitterPlace::clothColour, tr("Colour of the clothes"),
        "clothColour");
  wears(1, 1, tr("Clot&h"), choicesOf(cloths()), &SitterPlace::cloth, tr("Cloth"), "cloth");
  wears(3, 1, tr("&Glasses"), choicesOf(glassesFrames()), &SitterPlace::glasses, tr("Glasses"), "glasses");
  auto* temples =
      addNumber(4, 1, tr("Te&mples up"), rangeOf("sitter.templesUp"), 1, 0, kDegrees, sitterIs(&SitterPlace::templesUp),
                setSitter(tr("Temples of the glasses"), &SitterPlace::templesUp));
  temples->setObjectName("templesUp");
  temples->setToolTip(tr("Lifted at the ears, the lenses look down and mirror lower."));
  auto* back = addNumber(5, 1, tr("Hat ba&ck"), rangeOf("sitter.hatBack"), 2, 0, kDegrees,
                         sitterIs(&SitterPlace::hatBack), setSitter(tr("Hat tipped back"), &SitterPlace::hatBack));
  back->setObjectName("hatBack");
  back->setToolTip(tr("Tipped back, the brim lets a high light down to the eyes."));
  addSpoken(
      6, 0, tr("Title"), [this] { return QString::fromStdString(viewed_->plan().title); },
      [this](const QString& t) {
        const QString title = t.trimmed();
        if (title.isEmpty() || title.size() > 200)
          throw std::runtime_error(tr("A title has between 1 and 200 characters.").toStdString());
        viewed_->perform(SetTitle{title.toStdString(), viewed_->plan().notes}, tr("Title"));
      })
      ->setObjectName("title");
  endPage(7);
}

void SetCard::posePage() {
  startPage("Pose", tr("Pose"));
  addNumber(0, 0, tr("&Turn"), rangeOf("sitter.turn"), 5, 0, kDegrees, sitterIs(&SitterPlace::turn),
            setSitter(tr("Head turn"), &SitterPlace::turn))
      ->setObjectName("turn");
  addNumber(1, 0, tr("Ti&lt"), rangeOf("sitter.tilt"), 2, 0, kDegrees, sitterIs(&SitterPlace::tilt),
            setSitter(tr("Head tilt"), &SitterPlace::tilt));
  auto* chin = addNumber(2, 0, tr("&Chin"), rangeOf("sitter.nod"), 2, 0, kDegrees, sitterIs(&SitterPlace::nod),
                         setSitter(tr("Chin up or down"), &SitterPlace::nod));
  chin->setObjectName("chin");
  chin->setWords(chinWords(), rangeOf("sitter.nod").least, rangeOf("sitter.nod").most);
  chin->setToolTip(tr("\"5 up\" or \"5 down\"; a figure alone is down."));
  auto* posture = addChoice(
      0, 1, tr("&Posture"), {{"seated", tr("Seated")}, {"standing", tr("Standing")}},
      [this] {
        const SitterPlace& s = viewed_->plan().sitter;
        return seated(personOf(s.id).standingEyes, s.eyeHeight) ? QStringLiteral("seated") : QStringLiteral("standing");
      },
      [this](const QString& id) {
        const Plan& plan = viewed_->plan();
        const double stands = personOf(plan.sitter.id).standingEyes;
        viewed_->perform(SetPlan{withEyesAt(plan, id == "seated" ? seatedEyes(stands) : stands)}, tr("Posture"));
      });
  posture->setObjectName("posture");
  posture->setToolTip(tr("Camera and lights go up or down with the eyes."));
  addLength(1, 1, tr("&Eye height"), rangeOf("sitter.eyeHeight"), sitterIs(&SitterPlace::eyeHeight),
            setSitter(tr("Eye height"), &SitterPlace::eyeHeight))
      ->setObjectName("eyeHeight");
  auto* shoulders = addNumber(3, 0, tr("S&houlders"), rangeOf("sitter.shoulders"), 5, 0, kDegrees,
                              sitterIs(&SitterPlace::shoulders), setSitter(tr("Shoulders"), &SitterPlace::shoulders));
  shoulders->setObjectName("shoulders");
  shoulders->setToolTip(tr("Turned with the seat, more to the sitter's left the higher; the head keeps its own turn."));
  addNumber(3, 1, tr("Lea&n"), rangeOf("sitter.lean"), 2, 0, kDegrees, sitterIs(&SitterPlace::lean),
            setSitter(tr("Lean"), &SitterPlace::lean))
      ->setObjectName("lean");
  auto* arms = wears(2, 1, tr("&Arms"), choicesOf(poses()), &SitterPlace::pose, tr("Arms"), "pose");
  for (int i = 0; i < arms->count(); ++i)
    if (poses()[size_t(i)].sits)
      arms->setItemData(i, tr("For a sitter on the stool; standing, the arms are at rest."), Qt::ToolTipRole);
  wears(4, 0, tr("E&xpression"), choicesOf(expressions()), &SitterPlace::expression, tr("Expression"), "expression");
  gazeFields();
  endPage(7);
}

void SetCard::gazeFields() {
  gaze_ = addChoice(
      4, 1, tr("Looks"), {},
      [this] {
        const SitterPlace& s = viewed_->plan().sitter;
        return QString::fromStdString(s.gaze == kLooksAtLight ? lightSubject(s.gazeLight) : s.gaze);
      },
      [this](const QString& key) {
        const std::string id = key.toStdString();
        const auto light = lightOf(id);
        viewed_->perform(SetSitter{withGaze(viewed_->plan(), light ? kLooksAtLight : id, light.value_or(""))},
                         tr("Gaze"));
      });
  gaze_->setObjectName("gaze");
  gaze_->setToolTip(tr("Eyes turn up to 35° aside, 20° up and 25° down; further goes the head alone."));
  gazePlace_.push_back(addClock(5, 0, tr("Looks at clock"), sitterIs(&SitterPlace::gazeHour),
                                setSitter(tr("Gaze"), &SitterPlace::gazeHour)));
  gazePlace_.push_back(addLength(5, 1, tr("Distance"), rangeOf("sitter.gazeDistance"),
                                 sitterIs(&SitterPlace::gazeDistance),
                                 setSitter(tr("Gaze"), &SitterPlace::gazeDistance)));
  gazePlace_.push_back(addLength(6, 0, tr("Height"), rangeOf("sitter.gazeHeight"), sitterIs(&SitterPlace::gazeHeight),
                                 setSitter(tr("Gaze"), &SitterPlace::gazeHeight)));
  const char* const names[] = {"gazeHour", "gazeDistance", "gazeHeight"};
  for (size_t k = 0; k < gazePlace_.size(); ++k) gazePlace_[k]->setObjectName(names[k]);
}

void SetCard::cameraPage() {
  startPage("Camera", tr("Camera"));
  addSpoken(
      0, 0, tr("&Aperture"), [this] { return apertureText(viewed_->plan().camera.aperture); },
      [this](const QString& t) {
        Camera c = viewed_->plan().camera;
        c.aperture = readAperture(t.toStdString());
        viewed_->perform(SetCamera{c}, tr("Target aperture"));
      })
      ->setObjectName("aperture");
  addSpoken(
      1, 0, tr("S&hutter"), [this] { return QString::fromStdString(writeShutter(viewed_->plan().camera.shutter)); },
      [this](const QString& t) {
        Camera c = viewed_->plan().camera;
        c.shutter = readShutter(t.toStdString());
        viewed_->perform(SetCamera{c}, tr("Shutter"));
      })
      ->setObjectName("shutter");
  addSpoken(
      2, 0, tr("S&ync"), [this] { return QString::fromStdString(writeShutter(viewed_->plan().camera.syncShutter)); },
      [this](const QString& t) {
        Camera c = viewed_->plan().camera;
        c.syncShutter = readShutter(t.toStdString());
        viewed_->perform(SetCamera{c}, tr("Sync speed"));
      })
      ->setObjectName("sync");
  addNumber(3, 0, tr("&ISO"), rangeOf("camera.iso"), 100, 0, {}, cameraIs(&Camera::iso),
            setCamera(tr("ISO"), &Camera::iso))
      ->setObjectName("iso");
  addNumber(4, 0, tr("&White balance"), rangeOf("camera.whiteBalance"), 100, 0, tr(" K"),
            cameraIs(&Camera::whiteBalance), setCamera(tr("White balance"), &Camera::whiteBalance))
      ->setObjectName("whiteBalance");
  framingFields();
  lens_ = new QLabel(this);
  lens_->setWordWrap(true);
  lens_->setObjectName("depthOfField");
  grid_->addWidget(lens_, 6, 0, 1, 4);
  endPage(7);
}

void SetCard::framingFields() {
  auto* framing = addChoice(
      0, 1, tr("F&raming"), choicesOf(framings()),
      [this] { return QString::fromStdString(framingOf(viewed_->plan()).id); },
      [this](const QString& id) {
        for (const Framing& f : framings())
          if (f.id == id.toStdString()) viewed_->perform(SetCamera{framed(viewed_->plan(), f)}, tr("Framing"));
      });
  framing->setObjectName("framing");
  framing->setToolTip(tr("Moves the camera so that the framing fills the picture with this lens and sensor."));
  addNumber(1, 1, tr("&Focal length"), rangeOf("camera.focalLength"), 5, 0, tr(" mm"), cameraIs(&Camera::focalLength),
            setCamera(tr("Focal length"), &Camera::focalLength));
  addChoice(
      2, 1, tr("Se&nsor"), choicesOf(sensors()),
      [this] {
        const Camera& c = viewed_->plan().camera;
        for (const Sensor& s : sensors())
          if (std::abs(std::min(c.sensorWidth, c.sensorHeight) - s.shortSide) < 0.3)
            return QString::fromStdString(s.id);
        return QString();
      },
      [this](const QString& id) {
        for (const Sensor& s : sensors())
          if (s.id == id.toStdString()) {
            Camera c = viewed_->plan().camera;
            const bool lying = c.sensorWidth > c.sensorHeight;
            c.sensorWidth = lying ? s.longSide : s.shortSide;
            c.sensorHeight = lying ? s.shortSide : s.longSide;
            viewed_->perform(SetCamera{c}, tr("Sensor"));
          }
      })
      ->setObjectName("sensor");
  addLength(3, 1, tr("&Distance"), rangeOf("camera.distance"), cameraIs(&Camera::distance),
            setCamera(tr("Camera distance"), &Camera::distance))
      ->setObjectName("cameraDistance");
  addLength(4, 1, tr("Hei&ght"), rangeOf("camera.height"), cameraIs(&Camera::height),
            setCamera(tr("Camera height"), &Camera::height));
  addChoice(
      5, 1, tr("Frame"), choicesOf(frames()),
      [this] {
        for (const PictureFrame& f : frames())
          if (std::abs(f.widthOverHeight - viewed_->plan().camera.frame) < 0.01) return QString::fromStdString(f.id);
        return QString();
      },
      [this](const QString& id) {
        for (const PictureFrame& f : frames())
          if (f.id == id.toStdString())
            viewed_->perform(SetCamera{inFrame(viewed_->plan(), f.widthOverHeight)}, tr("Frame"));
      })
      ->setObjectName("frame");
  auto* focusing = addChoice(
      5, 0, tr("Foc&using"),
      {{QStringLiteral("extends"), tr("moves the lens out")}, {QStringLiteral("keeps"), tr("inside the lens")}},
      [this] { return viewed_->plan().camera.extends ? QStringLiteral("extends") : QStringLiteral("keeps"); },
      [this](const QString& id) {
        Camera c = viewed_->plan().camera;
        c.extends = id == QStringLiteral("extends");
        viewed_->perform(SetCamera{c}, tr("Focusing"));
      });
  focusing->setObjectName("focusing");
  focusing->setToolTip(
      tr("A lens that moves out shows less of the scene and gives less light the nearer it is focused; one "
         "that focuses inside keeps its angle and its light."));
}

void SetCard::backdropPage() {
  startPage("Backdrop", tr("Backdrop"));
  addLength(
      0, 0, tr("&Backdrop"), rangeOf("backdrop.distance"), [this] { return viewed_->plan().backdrop.distance; },
      [this](double v) {
        Backdrop b = viewed_->plan().backdrop;
        b.distance = v;
        viewed_->perform(SetBackdrop{b}, tr("Backdrop distance"), "backdrop-distance");
      })
      ->setObjectName("backdropDistance");
  Choices materials;
  for (const BackdropMaterial& m : backdropMaterials())
    materials.emplace_back(QString::fromStdString(m.id),
                           tr("%1 (%2 %)")
                               .arg(QString::fromStdString(m.name))
                               .arg(m.luminance() * 100, 0, 'f', m.luminance() < 0.1 ? 1 : 0));
  addChoice(
      1, 0, tr("&Material"), materials, [this] { return QString::fromStdString(viewed_->plan().backdrop.material); },
      [this](const QString& id) {
        Backdrop b = viewed_->plan().backdrop;
        b.material = id.toStdString();
        viewed_->perform(SetBackdrop{b}, tr("Backdrop material"));
      })
      ->setObjectName("material");
  auto* want = addChoice(
      2, 0, tr("&Light it to"), choicesOf(backdropTones(), {{"", tr("Choose...")}}), [] { return QString(); },
      [this](const QString& id) {
        if (id.isEmpty() || !answers_) return;
        const BackdropLight b = backgroundFor(viewed_->plan(), *answers_, id.toStdString());
        emit refused(QString::fromStdString(b.sentence));  // what it takes, reachable or not
        if (!b.reachable) return;
        const Plan after = withBackdropTone(viewed_->plan(), *answers_, id.toStdString());
        viewed_->perform(SetLights{after.lights}, tr("Backdrop tone"));
      });
  want->setObjectName("wantedTone");
  want->setToolTip(tr("Powers the background lights so that the backdrop comes out in this tone."));
  tone_ = new QLabel(this);
  tone_->setWordWrap(true);
  tone_->setObjectName("backdropTone");
  grid_->addWidget(tone_, 3, 0, 2, 2);
  endPage(6);
}

void SetCard::roomPage() {
  startPage("Room", tr("Room"));
  addLength(0, 0, tr("&Width"), rangeOf("room.width"), roomIs(&Room::width), setRoom(tr("Room width"), &Room::width));
  addLength(1, 0, tr("&Depth"), rangeOf("room.depth"), roomIs(&Room::depth), setRoom(tr("Room depth"), &Room::depth));
  addLength(2, 0, tr("Ceilin&g"), rangeOf("room.height"), roomIs(&Room::height), setRoom(tr("Ceiling"), &Room::height));
  addLength(3, 0, tr("Wall beh&ind"), rangeOf("room.behind"), roomIs(&Room::behind),
            setRoom(tr("Wall behind"), &Room::behind));
  auto share = [&](int row, const QString& label, const Range& range, double Room::*m) {
    addNumber(row, 1, label, range, 5, 0, tr(" %"), roomIs(m), setRoom(label, m));
  };
  share(0, tr("Wa&lls reflect"), rangeOf("room.wallReflectance"), &Room::wallReflectance);
  share(1, tr("&Floor reflects"), rangeOf("room.floorReflectance"), &Room::floorReflectance);
  share(2, tr("Ceiling &reflects"), rangeOf("room.ceilingReflectance"), &Room::ceilingReflectance);
  Choices colours = choicesOf(paints());
  addChoice(
      3, 1, tr("Walls &painted"), colours, [this] { return QString::fromStdString(viewed_->plan().room.paint); },
      [this](const QString& id) {
        Room r = viewed_->plan().room;
        r.paint = id.toStdString();
        viewed_->perform(SetRoom{r}, tr("Paint of the walls"));
      })
      ->setObjectName("paint");
  auto* haze = addNumber(
      4, 1, tr("Haze in the air"), rangeOf("plan.haze"), 0.01, 2, tr(" per m"), [this] { return viewed_->plan().haze; },
      [this](double v) { viewed_->perform(SetHaze{v}, tr("Haze"), "haze"); });
  haze->setObjectName("haze");
  haze->setSpecialValueText(tr("clear"));
  haze->setToolTip(
      tr("Extinction per metre: 0.02 is a breath of haze, 0.1 is thick. It dims the way from each lamp to what it "
         "meets first; the haze itself is not in the picture. Ventilate; mind asthma, smoke detectors and the venue's "
         "rules."));
  addSpoken(
      5, 0, tr("A&mbient"), [this] { return tr("%1 lx").arg(viewed_->plan().ambient.lux, 0, 'f', 0); },
      [this](const QString& t) {
        Ambient a = viewed_->plan().ambient;
        a.lux = readAmbient(t.toStdString(), viewed_->plan().camera.iso);
        viewed_->perform(SetAmbient{a}, tr("Ambient"));
      })
      ->setObjectName("ambient");
  addNumber(
      5, 1, tr("Its &colour"), rangeOf("ambient.kelvin"), 100, 0, tr(" K"),
      [this] { return viewed_->plan().ambient.kelvin; },
      [this](double v) {
        Ambient a = viewed_->plan().ambient;
        a.kelvin = v;
        viewed_->perform(SetAmbient{a}, tr("Colour of the ambient"), "ambient-kelvin");
      })
      ->setObjectName("ambientKelvin");
  ambient_ = new QLabel(this);
  ambient_->setWordWrap(true);
  ambient_->setObjectName("ambientFacts");
  grid_->addWidget(ambient_, 6, 0, 2, 4);
  endPage(8);
}

void SetCard::setAnswers(std::shared_ptr<const Answers> answers) {
  answers_ = std::move(answers);
  refresh();
}

// The lights of the plan are other ones with every edit.
void SetCard::fillGaze() {
  const QSignalBlocker quiet(gaze_);
  gaze_->clear();
  gaze_->addItem(tr("at the lens"), QString(kLooksAtLens));
  gaze_->addItem(tr("straight ahead"), QString(kLooksAhead));
  for (const Light& l : viewed_->plan().lights)
    gaze_->addItem(tr("at light %1").arg(QString::fromStdString(l.id)), QString::fromStdString(lightSubject(l.id)));
  gaze_->addItem(tr("at a place"), QString(kLooksAtPoint));
  for (QWidget* w : gazePlace_) w->setEnabled(viewed_->plan().sitter.gaze == kLooksAtPoint);
}

void SetCard::refresh() {
  fillGaze();
  Card::refresh();
  const Plan& plan = viewed_->plan();
  const Camera& c = plan.camera;
  try {
    // Sharp on the nearer eye: 8 cm in front of the axis.
    const double at = std::max(0.1, c.distance - 0.08);
    const DepthOfField d = depthOfField(c.focalLength, c.shootingAperture(), at, c.sensorWidth, c.sensorHeight);
    lens_->setText(std::isfinite(d.far)
                       ? tr("Sharp from %1 in front of the eyes to %2 behind them at %3.%4")
                             .arg(lengthText(d.inFrontOf(at)), lengthText(d.behind(at)),
                                  apertureText(c.shootingAperture()),
                                  d.far - d.near < 0.12 ? tr(" Less than a head: the ears go soft.") : QString())
                       : tr("Sharp from %1 in front of the eyes to the far wall.").arg(lengthText(d.inFrontOf(at))));
  } catch (const std::exception& e) {
    lens_->setText(QString::fromUtf8(e.what()));
  }
  if (const double lost = extensionStops(c); lost >= 0.05)
    lens_->setText(
        lens_->text() + " " +
        tr("Focused this near the lens gives %1 stops less than a hand-held meter knows, and shows %2 % less.")
            .arg(lost, 0, 'f', 2)
            .arg(100 * magnification(c), 0, 'f', 0));
  if (c.closedBy != 0)
    lens_->setText(lens_->text() + " " +
                   tr("The lens stands at %1 for everything on, %2 stops from the target aperture %3.")
                       .arg(apertureText(c.shootingAperture()), shortStops(c.closedBy), apertureText(c.aperture)));
  if (!answers_) return;
  const double midGrey = stopsOver(answers_->backdropValue, 0.18, -99);
  tone_->setText(tr("Now %1: %2 stops from mid grey, its light %3 stops from the face's.")
                     .arg(QString::fromStdString(toneName(answers_->backdropValue)), shortStops(midGrey),
                          shortStops(answers_->backdropStops)));
  const int dark = int(std::lround(100 * darkBand(c)));
  ambient_->setText(
      tr("Metered: %1. With the flash off it lies %2 stops from the target aperture; flash makes %3 % of the "
         "light on the face.%4")
          .arg(QString::fromStdString(writeAmbient(plan.ambient.lux, c.iso)), shortStops(answers_->ambientStops))
          .arg(100 * answers_->face.flashShare(), 0, 'f', 1)
          .arg(dark > 0
                   ? tr(" The shutter is faster than sync: without high-speed sync %1 % of the picture get no flash.")
                         .arg(dark)
                   : QString()));
}

}  // namespace easel::app
