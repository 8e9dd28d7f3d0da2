#include "cards/set_card.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QSignalBlocker>
#include <QTabWidget>
#include <cmath>
#include <stdexcept>

#include "balance/backdrop_tone.h"
#include "cards/head_view.h"
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
  return {
      [](double v) {
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
              SetCard::tr("\"%1\" is not a position of the chin. Write 5 up, 5 down or level.").arg(t).toStdString());
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

PicturedBox* SetCard::wears(int row, const QString& label, const Choices& choices, std::string SitterPlace::*m,
                            const QString& done, const char* name, PrintShows shows) {
  auto* box = addPictured(
      row, label, choices, [=, this] { return QString::fromStdString(viewed_->plan().sitter.*m); },
      [=, this](const QString& id) -> std::optional<Edit> {
        SitterPlace s = viewed_->plan().sitter;
        s.*m = id.toStdString();
        return SetSitter{s};
      },
      done, shows);
  box->setObjectName(name);
  return box;
}

// As high as it is, and the fields as wide as they can be.
void SetCard::endPage(int row) {
  grid_->setRowStretch(row, 1);
  for (int c : {1, 3}) grid_->setColumnStretch(c, 1);
}

void SetCard::sitterPage() {
  startPicturedPage("Sitter", tr("Sitter"));
  using P = PrintShows;
  auto* who = wears(0, tr("&Sitter"), choicesOf(sitterCatalogue()), &SitterPlace::id, tr("Sitter"), "sitter", P::Face);
  for (int i = 0; i < who->count(); ++i)
    who->setItemData(i, QString::fromStdString(sitterCatalogue()[size_t(i)].description), Qt::ToolTipRole);
  wears(1, tr("Hair st&yle"), choicesOf(hairStyles()), &SitterPlace::hairStyle, tr("Hair style"), "hairStyle", P::Face);
  wears(2, tr("Ha&ir colour"), choicesOf(hairColours()), &SitterPlace::hairColour, tr("Hair colour"), "hairColour",
        P::Face);
  wears(3, tr("S&kin tone"), choicesOf(skinTones()), &SitterPlace::skinTone, tr("Skin tone"), "skinTone", P::Face);
  wears(4, tr("&Beard"), choicesOf(beards()), &SitterPlace::beard, tr("Beard"), "beard", P::Face);
  wears(5, tr("&Glasses"), choicesOf(glassesFrames()), &SitterPlace::glasses, tr("Glasses"), "glasses", P::Face);
  auto* temples =
      addNumber(6, 0, tr("Glasses tilte&d"), rangeOf("sitter.templesUp"), 1, 0, kDegrees,
                sitterIs(&SitterPlace::templesUp), setSitter(tr("Tilt of the glasses"), &SitterPlace::templesUp));
  temples->setObjectName("templesUp");
  temples->setToolTip(tr("Lifted at the ears: the lenses tilt down and reflections in them move lower."));
  only_.push_back({temples, [](const SitterPlace& s) {
                     return s.glasses == "own" ? personOf(s.id).glasses != "none" : s.glasses != "none";
                   }});
  wears(7, tr("H&at"), choicesOf(hats()), &SitterPlace::hat, tr("Hat"), "hat", P::Face);
  auto* back = addNumber(8, 0, tr("Hat tipped ba&ck"), rangeOf("sitter.hatBack"), 2, 0, kDegrees,
                         sitterIs(&SitterPlace::hatBack), setSitter(tr("Hat tipped back"), &SitterPlace::hatBack));
  back->setObjectName("hatBack");
  back->setToolTip(tr("Tipped back, the brim lets a high light down to the eyes."));
  only_.push_back({back, [](const SitterPlace& s) { return s.hat != "none"; }});
  wears(9, tr("&Outfit"), choicesOf(outfits()), &SitterPlace::outfit, tr("Outfit"), "outfit", P::Chest);
  wears(10, tr("Clot&h"), choicesOf(cloths()), &SitterPlace::cloth, tr("Cloth"), "cloth", P::Chest);
  wears(11, tr("Cloth co&lour"), choicesOf(clothColours()), &SitterPlace::clothColour, tr("Colour of the clothes"),
        "clothColour", P::Chest);
  addSpoken(
      12, 0, tr("Title"), [this] { return QString::fromStdString(viewed_->plan().title); },
      [this](const QString& t) {
        const QString title = t.trimmed();
        if (title.isEmpty() || title.size() > 200)
          throw std::runtime_error(tr("A title has between 1 and 200 characters.").toStdString());
        viewed_->perform(SetTitle{title.toStdString(), viewed_->plan().notes}, tr("Title"));
      })
      ->setObjectName("title");
  endPage(13);
}

void SetCard::posePage() {
  startPicturedPage("Pose", tr("Pose"));
  using P = PrintShows;
  auto* posture = addPictured(
      0, tr("&Posture"), {{"seated", tr("Seated")}, {"standing", tr("Standing")}},
      [this] {
        const SitterPlace& s = viewed_->plan().sitter;
        return seated(personOf(s.id).standingEyes, s.eyeHeight) ? QStringLiteral("seated") : QStringLiteral("standing");
      },
      [this](const QString& id) -> std::optional<Edit> {
        const Plan& plan = viewed_->plan();
        const double stands = personOf(plan.sitter.id).standingEyes;
        return SetPlan{withEyesAt(plan, id == "seated" ? seatedEyes(stands) : stands)};
      },
      tr("Posture"), P::Figure);
  posture->setObjectName("posture");
  posture->setToolTip(tr("Camera and lights go up or down with the eyes."));
  auto* arms = wears(1, tr("&Arms"), choicesOf(poses()), &SitterPlace::pose, tr("Arms"), "pose", P::Figure);
  for (int i = 0; i < arms->count(); ++i)
    if (poses()[size_t(i)].sits)
      arms->setItemData(i, tr("For a sitter on the stool; standing, the arms are at rest."), Qt::ToolTipRole);
  wears(2, tr("E&xpression"), choicesOf(expressions()), &SitterPlace::expression, tr("Expression"), "expression",
        P::Face);
  gazeFields();
  headFields();
  endPage(13);
}

void SetCard::headFields() {
  addNumber(7, 0, tr("&Turn"), rangeOf("sitter.turn"), 5, 0, kDegrees, sitterIs(&SitterPlace::turn),
            setSitter(tr("Head turn"), &SitterPlace::turn))
      ->setObjectName("turn");
  addNumber(8, 0, tr("Ti&lt"), rangeOf("sitter.tilt"), 2, 0, kDegrees, sitterIs(&SitterPlace::tilt),
            setSitter(tr("Head tilt"), &SitterPlace::tilt));
  auto* chin = addNumber(9, 0, tr("&Chin"), rangeOf("sitter.nod"), 2, 0, kDegrees, sitterIs(&SitterPlace::nod),
                         setSitter(tr("Chin up or down"), &SitterPlace::nod));
  chin->setObjectName("chin");
  chin->setWords(chinWords(), rangeOf("sitter.nod").least, rangeOf("sitter.nod").most);
  chin->setToolTip(tr("\"5 up\" or \"5 down\"; a figure alone is down."));
  auto* shoulders = addNumber(10, 0, tr("S&houlders"), rangeOf("sitter.shoulders"), 5, 0, kDegrees,
                              sitterIs(&SitterPlace::shoulders), setSitter(tr("Shoulders"), &SitterPlace::shoulders));
  shoulders->setObjectName("shoulders");
  shoulders->setToolTip(
      tr("Shoulders turn with the seat, higher figures further to the sitter's left. The head keeps its own turn."));
  addNumber(11, 0, tr("Lea&n"), rangeOf("sitter.lean"), 2, 0, kDegrees, sitterIs(&SitterPlace::lean),
            setSitter(tr("Lean"), &SitterPlace::lean))
      ->setObjectName("lean");
  addLength(12, 0, tr("&Eye height"), rangeOf("sitter.eyeHeight"), sitterIs(&SitterPlace::eyeHeight),
            setSitter(tr("Eye height"), &SitterPlace::eyeHeight))
      ->setObjectName("eyeHeight");
  grid_->addWidget(new HeadView(viewed_, this), 7, 2, 6, 1, Qt::AlignCenter);
}

void SetCard::gazeFields() {
  gaze_ = addPictured(
      3, tr("Looks"), {},
      [this] {
        const SitterPlace& s = viewed_->plan().sitter;
        return QString::fromStdString(s.gaze == kLooksAtLight ? lightSubject(s.gazeLight) : s.gaze);
      },
      [this](const QString& key) -> std::optional<Edit> {
        const std::string id = key.toStdString();
        const auto light = lightOf(id);
        return SetSitter{withGaze(viewed_->plan(), light ? kLooksAtLight : id, light.value_or(""))};
      },
      tr("Gaze"), PrintShows::Face);
  gaze_->setObjectName("gaze");
  gaze_->setToolTip(tr("Eyes turn up to 35° to the side, 20° up and 25° down. For more, turn the head."));
  QWidget* const place[] = {
      addClock(4, 0, tr("Looks at clock"), sitterIs(&SitterPlace::gazeHour),
               setSitter(tr("Gaze"), &SitterPlace::gazeHour)),
      addLength(5, 0, tr("Distance"), rangeOf("sitter.gazeDistance"), sitterIs(&SitterPlace::gazeDistance),
                setSitter(tr("Gaze"), &SitterPlace::gazeDistance)),
      addLength(6, 0, tr("Height"), rangeOf("sitter.gazeHeight"), sitterIs(&SitterPlace::gazeHeight),
                setSitter(tr("Gaze"), &SitterPlace::gazeHeight))};
  const char* const names[] = {"gazeHour", "gazeDistance", "gazeHeight"};
  for (size_t k = 0; k < 3; ++k) {
    place[k]->setObjectName(names[k]);
    only_.push_back({place[k], [](const SitterPlace& s) { return s.gaze == kLooksAtPoint; }});
  }
}

void SetCard::cameraPage() {
  startPicturedPage("Camera", tr("Camera"));
  auto spoken = [this](int row, const QString& label, const QString& done, const char* name,
                       const std::function<QString(const Camera&)>& write,
                       const std::function<void(Camera&, const std::string&)>& read) {
    addSpoken(
        row, 0, label, [this, write] { return write(viewed_->plan().camera); },
        [this, read, done](const QString& t) {
          Camera c = viewed_->plan().camera;
          read(c, t.toStdString());
          viewed_->perform(SetCamera{c}, done);
        })
        ->setObjectName(name);
  };
  spoken(
      0, tr("&Aperture"), tr("Target aperture"), "aperture", [](const Camera& c) { return apertureText(c.aperture); },
      [](Camera& c, const std::string& t) { c.aperture = readAperture(t); });
  spoken(
      1, tr("S&hutter"), tr("Shutter"), "shutter",
      [](const Camera& c) { return QString::fromStdString(writeShutter(c.shutter)); },
      [](Camera& c, const std::string& t) { c.shutter = readShutter(t); });
  addNumber(2, 0, tr("&ISO"), rangeOf("camera.iso"), 100, 0, {}, cameraIs(&Camera::iso),
            setCamera(tr("ISO"), &Camera::iso))
      ->setObjectName("iso");
  addNumber(3, 0, tr("&White balance"), rangeOf("camera.whiteBalance"), 100, 0, tr(" K"),
            cameraIs(&Camera::whiteBalance), setCamera(tr("White balance"), &Camera::whiteBalance))
      ->setObjectName("whiteBalance");
  framingFields();
  bodyFields();
  spoken(
      11, tr("S&ync"), tr("Sync speed"), "sync",
      [](const Camera& c) { return QString::fromStdString(writeShutter(c.syncShutter)); },
      [](Camera& c, const std::string& t) { c.syncShutter = readShutter(t); });
  lens_ = new QLabel(this);
  lens_->setWordWrap(true);
  lens_->setObjectName("depthOfField");
  grid_->addWidget(lens_, 12, 0, 1, 2);
  endPage(13);
}

void SetCard::framingFields() {
  const auto named = [](const QString& id) -> const Framing& { return framingCalled(id.toStdString()); };
  auto* framing = addPictured(
      4, tr("F&raming"), choicesOf(framings()),
      [this] { return QString::fromStdString(framingOf(viewed_->plan()).id); },
      [this, named](const QString& id) -> std::optional<Edit> { return SetCamera{framed(viewed_->plan(), named(id))}; },
      tr("Framing"), PrintShows::Picture,
      [this, named](const QString& id) { return lengthText(framed(viewed_->plan(), named(id)).distance); });
  framing->setObjectName("framing");
  framing->setToolTip(tr("Moves the camera so that the framing fills the picture with this lens and sensor."));
  addNumber(5, 0, tr("&Focal length"), rangeOf("camera.focalLength"), 5, 0, tr(" mm"), cameraIs(&Camera::focalLength),
            setCamera(tr("Focal length"), &Camera::focalLength));
  addLength(6, 0, tr("&Distance"), rangeOf("camera.distance"), cameraIs(&Camera::distance),
            setCamera(tr("Camera distance"), &Camera::distance))
      ->setObjectName("cameraDistance");
  addLength(7, 0, tr("Hei&ght"), rangeOf("camera.height"), cameraIs(&Camera::height),
            setCamera(tr("Camera height"), &Camera::height));
}

void SetCard::bodyFields() {
  addChoice(
      8, 0, tr("Frame"), choicesOf(frames()),
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
  addChoice(
      9, 0, tr("Se&nsor"), choicesOf(sensors()),
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
  auto* focusing = addChoice(
      10, 0, tr("Foc&using"), {{QStringLiteral("extends"), tr("extends")}, {QStringLiteral("keeps"), tr("internal")}},
      [this] { return viewed_->plan().camera.extends ? QStringLiteral("extends") : QStringLiteral("keeps"); },
      [this](const QString& id) {
        Camera c = viewed_->plan().camera;
        c.extends = id == QStringLiteral("extends");
        viewed_->perform(SetCamera{c}, tr("Focusing"));
      });
  focusing->setObjectName("focusing");
  focusing->setToolTip(
      tr("A lens that extends shows less of the scene and passes less light the nearer it focuses. With internal "
         "focusing it keeps its angle and its light."));
}

void SetCard::backdropPage() {
  ChoiceGallery* pictures = startPicturedPage("Backdrop", tr("Backdrop"));
  Choices materials;
  for (const BackdropMaterial& m : backdropMaterials())
    materials.emplace_back(QString::fromStdString(m.id),
                           tr("%1 (%2 %)")
                               .arg(QString::fromStdString(m.name))
                               .arg(m.luminance() * 100, 0, 'f', m.luminance() < 0.1 ? 1 : 0));
  addPictured(
      0, tr("&Material"), materials, [this] { return QString::fromStdString(viewed_->plan().backdrop.material); },
      [this](const QString& id) -> std::optional<Edit> {
        Backdrop b = viewed_->plan().backdrop;
        b.material = id.toStdString();
        return SetBackdrop{b};
      },
      tr("Backdrop material"), PrintShows::Picture)
      ->setObjectName("material");
  addLength(
      1, 0, tr("&Backdrop"), rangeOf("backdrop.distance"), [this] { return viewed_->plan().backdrop.distance; },
      [this](double v) {
        Backdrop b = viewed_->plan().backdrop;
        b.distance = v;
        viewed_->perform(SetBackdrop{b}, tr("Backdrop distance"), "backdrop-distance");
      })
      ->setObjectName("backdropDistance");
  auto* want = addChoice(
      2, 0, tr("&Wanted tone"), choicesOf(backdropTones(), {{"", tr("Choose...")}}), [] { return QString(); },
      [this](const QString& id) {
        if (id.isEmpty() || !answers_) return;
        const BackdropLight b = backgroundFor(viewed_->plan(), *answers_, id.toStdString());
        emit refused(QString::fromStdString(b.sentence));  // what it takes, reachable or not
        if (const auto edit = toned(id)) viewed_->perform(*edit, tr("Backdrop tone"));
      });
  want->setObjectName("wantedTone");
  want->setToolTip(tr("Powers the background lights so that the backdrop comes out in this tone."));
  pictures->add({want, tr("Wanted tone"), [this](const QString& id) { return toned(id); }, PrintShows::Picture});
  tone_ = new QLabel(this);
  tone_->setWordWrap(true);
  tone_->setObjectName("backdropTone");
  grid_->addWidget(tone_, 3, 0, 2, 2);
  endPage(6);
}

std::optional<Edit> SetCard::toned(const QString& id) const {
  if (id.isEmpty() || !answers_ || !backgroundFor(viewed_->plan(), *answers_, id.toStdString()).reachable) return {};
  return SetLights{withBackdropTone(viewed_->plan(), *answers_, id.toStdString()).lights};
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
      tr("Extinction per metre: 0.02 is thin haze, 0.1 is thick. It dims each lamp on the way to what it lights; the "
         "haze itself is not drawn. Ventilate; mind asthma, smoke detectors and the venue's rules."));
  addSpoken(
      5, 0, tr("Roo&m light"), [this] { return tr("%1 lx").arg(viewed_->plan().ambient.lux, 0, 'f', 0); },
      [this](const QString& t) {
        Ambient a = viewed_->plan().ambient;
        a.lux = readAmbient(t.toStdString(), viewed_->plan().camera.iso);
        viewed_->perform(SetAmbient{a}, tr("Room light"));
      })
      ->setObjectName("ambient");
  addNumber(
      5, 1, tr("Its &colour"), rangeOf("ambient.kelvin"), 100, 0, tr(" K"),
      [this] { return viewed_->plan().ambient.kelvin; },
      [this](double v) {
        Ambient a = viewed_->plan().ambient;
        a.kelvin = v;
        viewed_->perform(SetAmbient{a}, tr("Colour of the room light"), "ambient-kelvin");
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
  printGalleries();
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
}

void SetCard::refresh() {
  fillGaze();
  Card::refresh();
  const Plan& plan = viewed_->plan();
  for (const Only& o : only_) setStands(o.field, o.fits(plan.sitter));
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
    lens_->setText(lens_->text() + " " +
                   tr("Focused this near, the lens passes %1 stops less light than a hand-held meter allows for and "
                      "shows %2 % less.")
                       .arg(lost, 0, 'f', 2)
                       .arg(100 * magnification(c), 0, 'f', 0));
  if (c.closedBy != 0)
    lens_->setText(lens_->text() + " " +
                   tr("The lens is set to %1 for everything on, %2 stops from the target aperture %3.")
                       .arg(apertureText(c.shootingAperture()), shortStops(c.closedBy), apertureText(c.aperture)));
  if (!answers_) return;
  const double midGrey = stopsOver(answers_->backdropValue, 0.18, -99);
  tone_->setText(tr("Now %1: %2 stops against mid grey; its light %3 stops against the face.")
                     .arg(QString::fromStdString(toneName(answers_->backdropValue)), shortStops(midGrey),
                          shortStops(answers_->backdropStops)));
  const int dark = int(std::lround(100 * darkBand(c)));
  ambient_->setText(
      tr("Metered: %1, with the flash off %2 stops against the target aperture. Flash gives %3 % of the light on the "
         "face.%4")
          .arg(QString::fromStdString(writeAmbient(plan.ambient.lux, c.iso)), shortStops(answers_->ambientStops))
          .arg(100 * answers_->face.flashShare(), 0, 'f', 1)
          .arg(dark > 0
                   ? tr(" The shutter is faster than sync: without high-speed sync %1 % of the picture gets no flash.")
                         .arg(dark)
                   : QString()));
}

}  // namespace easel::app
