// What a widget writes, for tests to read: it is rendered to a device that keeps every text and nothing else.
#pragma once

#include <QPaintDevice>
#include <QPaintEngine>
#include <QPainter>
#include <QStringList>
#include <QWidget>
#include <cmath>

namespace whorl::test {

class TextEngine : public QPaintEngine {
public:
    TextEngine() : QPaintEngine(QPaintEngine::AllFeatures) {}
    QStringList texts;
    bool begin(QPaintDevice*) override { return true; }
    bool end() override { return true; }
    void updateState(const QPaintEngineState&) override {}
    void drawPixmap(const QRectF&, const QPixmap&, const QRectF&) override {}
    void drawTextItem(const QPointF& at, const QTextItem& item) override {
        // figures are set one by one, each in a cell of the same width
        const QPointF place = state->transform().map(at);
        const bool goes_on = !texts.isEmpty() && item.text().size() == 1 && last_single_ &&
                             std::abs(place.y() - last_.y()) < 0.5 && place.x() > last_.x() &&
                             place.x() - last_.x() < 14;
        if (goes_on)
            texts.last() += item.text();
        else
            texts << item.text();
        last_ = place;
        last_single_ = item.text().size() == 1;
    }
    void drawPath(const QPainterPath&) override {}
    void drawImage(const QRectF&, const QImage&, const QRectF&, Qt::ImageConversionFlags) override {}
    void drawPolygon(const QPointF*, int, PolygonDrawMode) override {}
    Type type() const override { return QPaintEngine::User; }

private:
    QPointF last_;
    bool last_single_ = false;
};

class TextDevice : public QPaintDevice {
public:
    explicit TextDevice(QSize size) : size_(size) {}
    QPaintEngine* paintEngine() const override { return &engine_; }
    QStringList texts() const { return engine_.texts; }

protected:
    int metric(PaintDeviceMetric m) const override {
        switch (m) {
        case PdmWidth:
            return size_.width();
        case PdmHeight:
            return size_.height();
        case PdmDpiX:
        case PdmDpiY:
        case PdmPhysicalDpiX:
        case PdmPhysicalDpiY:
            return 96;
        case PdmNumColors:
            return 1 << 24;
        case PdmDepth:
            return 32;
        case PdmDevicePixelRatio:
            return 1;
        case PdmDevicePixelRatioScaled:
            return static_cast<int>(devicePixelRatioFScale());
        default:
            return 0;
        }
    }

private:
    QSize size_;
    mutable TextEngine engine_;
};

inline QStringList drawn_text(QWidget& widget) {
    TextDevice device(widget.size());
    widget.render(&device);
    return device.texts();
}

} // namespace whorl::test
