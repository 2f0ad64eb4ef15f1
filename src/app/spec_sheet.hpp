// The spec sheet: what was asked, what follows from it with limits and sources, and the job's named values.
#pragma once

#include "app/canvas.hpp"

#include <QScrollArea>

namespace whorl::app {

class SpecSheet final : public Canvas {
    Q_OBJECT
public:
    explicit SpecSheet(Session& session, QWidget* parent = nullptr);

protected:
    void draw(QPainter& p) override;
    void mousePressEvent(QMouseEvent* e) override;

private:
    struct HandBack {
        QRectF rect;
        Field field;
    };
    void heading(QPainter& p, double& y, const QString& text, bool limits = false);
    void asked_row(QPainter& p, double& y, const QString& label, Field field, const QString& value,
                   const QString& unit, const QString& key, const QStringList& choices = {},
                   const QString& tip = {});
    void thickness_row(QPainter& p, double& y, const ResolvedGear& gear);
    void ratio_row(QPainter& p, double& y, const Session::ShownMesh& mesh);
    void mesh_rows(QPainter& p, double& y);
    void section_row(QPainter& p, double& y, const OwnSection& section);
    void follows_row(QPainter& p, double& y, const ResolvedValue& v);
    std::vector<HandBack> hand_backs_;
    std::optional<double> thickness_at_; // diameter, mm; none: the pitch circle
};

// The sheet in its scroll area.
QScrollArea* scrolled(SpecSheet* sheet);

} // namespace whorl::app
