// Text is text: a label, a box or a tooltip shows what it is given, whatever signs are in it, for names come from
// files, devices and pictures of strangers. Markup of our own is set through setMarkup(), with everything else escaped.
// The InputGuard sees to the labels and tooltips of the whole program.
#pragma once

#include <QLabel>
#include <QString>
#include <string>

namespace easel::app {

inline void setMarkup(QLabel* label, const QString& html) {
  label->setTextFormat(Qt::RichText);
  label->setText(html);
}
/// A text as it stands between tags.
inline QString escaped(const std::string& text) { return QString::fromStdString(text).toHtmlEscaped(); }

/// A tooltip that shows the text as it is, also where Qt would take it for markup.
inline QString plainTip(const QString& text) {
  if (!Qt::mightBeRichText(text)) return text;
  return QStringLiteral("<p style='white-space:pre-wrap'>") + text.toHtmlEscaped() + QStringLiteral("</p>");
}

}  // namespace easel::app
