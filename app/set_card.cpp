#include <QComboBox>
#include <QGridLayout>
#include <stdexcept>

#include "cards.h"
#include "exposure/shutter.h"
#include "sitters/sitter_file.h"
#include "wording.h"

namespace easel::app {

SetCard::SetCard(Document* document, QWidget* parent) : Card(document, parent) {
  // Each part of the plan is edited as a whole value: the inverse is the old one.
  auto get = [this](auto part, auto member) {
    return [this, part, member]() -> double { return (document_->plan().*part).*member; };
  };
  auto camera = [this](const QString& label, double Camera::*m) {
    return [=, this](double v) {
      Camera c = document_->plan().camera;
      c.*m = v;
      document_->perform(SetCamera{c}, label, "camera-" + label);
    };
  };
  auto sitter = [this](const QString& label, double SitterPlace::*m) {
    return [=, this](double v) {
      SitterPlace s = document_->plan().sitter;
      s.*m = v;
      document_->perform(SetSitter{s}, label, "sitter-" + label);
    };
  };
  auto room = [this](const QString& label, double Room::*m) {
    return [=, this](double v) {
      Room r = document_->plan().room;
      r.*m = v;
      document_->perform(SetRoom{r}, label, "room-" + label);
    };
  };
  const QString deg = QStringLiteral("\u00b0");

  std::vector<std::pair<QString, QString>> people;
  for (const SitterInfo& s : sitterCatalogue())
    people.emplace_back(QString::fromStdString(s.id), QString::fromStdString(s.name));
  auto* who = addChoice(
      0, 0, tr("&Sitter"), people, [this] { return QString::fromStdString(document_->plan().sitter.id); },
      [this](const QString& id) {
        SitterPlace s = document_->plan().sitter;
        s.id = id.toStdString();
        document_->perform(SetSitter{s}, tr("Sitter"));
      });
  who->setObjectName("sitter");
  for (int i = 0; i < who->count(); ++i)
    who->setItemData(i, QString::fromStdString(sitterCatalogue()[size_t(i)].description), Qt::ToolTipRole);
  addLength(1, 0, tr("&Eye height"), 0.3, 2.3, get(&Plan::sitter, &SitterPlace::eyeHeight),
            sitter(tr("Eye height"), &SitterPlace::eyeHeight))
      ->setObjectName("eyeHeight");
  addNumber(2, 0, tr("&Turn"), -100, 100, 5, 0, deg, get(&Plan::sitter, &SitterPlace::turn),
            sitter(tr("Head turn"), &SitterPlace::turn))
      ->setObjectName("turn");
  addNumber(3, 0, tr("Ti&lt"), -45, 45, 2, 0, deg, get(&Plan::sitter, &SitterPlace::tilt),
            sitter(tr("Head tilt"), &SitterPlace::tilt));
  addNumber(4, 0, tr("&Nod"), -45, 45, 2, 0, deg, get(&Plan::sitter, &SitterPlace::nod),
            sitter(tr("Head nod"), &SitterPlace::nod));

  addSpoken(
      6, 0, tr("Title"), [this] { return QString::fromStdString(document_->plan().title); },
      [this](const QString& t) {
        const QString title = t.trimmed();
        if (title.isEmpty() || title.size() > 200)
          throw std::runtime_error(tr("A title has between 1 and 200 characters.").toStdString());
        document_->perform(SetTitle{title.toStdString(), document_->plan().notes}, tr("Title"));
      })
      ->setObjectName("title");
  addSpoken(
      0, 1, tr("&Aperture"), [this] { return apertureText(document_->plan().camera.aperture); },
      [this](const QString& t) {
        Camera c = document_->plan().camera;
        c.aperture = readAperture(t.toStdString());
        document_->perform(SetCamera{c}, tr("Working aperture"));
      })
      ->setObjectName("aperture");
  addSpoken(
      1, 1, tr("S&hutter"), [this] { return QString::fromStdString(writeShutter(document_->plan().camera.shutter)); },
      [this](const QString& t) {
        Camera c = document_->plan().camera;
        c.shutter = readShutter(t.toStdString());
        document_->perform(SetCamera{c}, tr("Shutter"));
      })
      ->setObjectName("shutter");
  addNumber(2, 1, tr("&ISO"), 25, 25600, 100, 0, {}, get(&Plan::camera, &Camera::iso), camera(tr("ISO"), &Camera::iso))
      ->setObjectName("iso");
  addNumber(3, 1, tr("&White bal."), 1700, 25000, 100, 0, tr(" K"), get(&Plan::camera, &Camera::whiteBalance),
            camera(tr("White balance"), &Camera::whiteBalance));
  addNumber(4, 1, tr("&Focal length"), 8, 1200, 5, 0, tr(" mm"), get(&Plan::camera, &Camera::focalLength),
            camera(tr("Focal length"), &Camera::focalLength));
  addLength(5, 1, tr("&Camera dist."), 0.3, 50, get(&Plan::camera, &Camera::distance),
            camera(tr("Camera distance"), &Camera::distance))
      ->setObjectName("cameraDistance");
  addLength(6, 1, tr("Camera hei&ght"), 0.05, 10, get(&Plan::camera, &Camera::height),
            camera(tr("Camera height"), &Camera::height));

  addLength(0, 2, tr("&Backdrop"), 0.2, 50, get(&Plan::backdrop, &Backdrop::distance), [this](double v) {
    Backdrop b = document_->plan().backdrop;
    b.distance = v;
    document_->perform(SetBackdrop{b}, tr("Backdrop distance"), "backdrop-distance");
  })->setObjectName("backdropDistance");
  std::vector<std::pair<QString, QString>> materials;
  for (const BackdropMaterial& m : backdropMaterials())
    materials.emplace_back(QString::fromStdString(m.id), QString::fromStdString(m.name));
  addChoice(
      1, 2, tr("&Material"), materials, [this] { return QString::fromStdString(document_->plan().backdrop.material); },
      [this](const QString& id) {
        Backdrop b = document_->plan().backdrop;
        b.material = id.toStdString();
        document_->perform(SetBackdrop{b}, tr("Backdrop material"));
      });
  addNumber(2, 2, tr("Amb&ient"), 0, 200000, 10, 0, tr(" lx"), get(&Plan::ambient, &Ambient::lux), [this](double v) {
    Ambient a = document_->plan().ambient;
    a.lux = v;
    document_->perform(SetAmbient{a}, tr("Ambient"), "ambient-lux");
  });
  addLength(3, 2, tr("&Room width"), 1, 60, get(&Plan::room, &Room::width), room(tr("Room width"), &Room::width));
  addLength(4, 2, tr("Room &depth"), 1, 100, get(&Plan::room, &Room::depth), room(tr("Room depth"), &Room::depth));
  addLength(5, 2, tr("Ceilin&g"), 1.5, 20, get(&Plan::room, &Room::height), room(tr("Ceiling"), &Room::height));
  addLength(6, 2, tr("Wall beh&ind"), 0.2, 50, get(&Plan::room, &Room::behind), room(tr("Wall behind"), &Room::behind));
  for (int c : {1, 3, 5}) grid_->setColumnStretch(c, 1);
  grid_->setRowStretch(8, 1);
  refresh();
}

}  // namespace easel::app
