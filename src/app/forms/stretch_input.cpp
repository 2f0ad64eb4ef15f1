#include "app/forms/stretch_input.hpp"

#include "model/forms/cam_rows.hpp"

namespace whorl::app {

std::vector<std::string> stretches_of(const Session& session) {
    const auto* z = session.resolved_zone();
    const std::string text = z && z->motion() ? session.text_of(field::timing).toStdString() : "";
    return text.empty() ? std::vector<std::string>{} : timing_items(text);
}

Input stretch_input(Session& session, std::size_t stretch) {
    Input in;
    const std::vector<std::string> items = stretches_of(session);
    in.key = QString("stretch_%1").arg(stretch + 1);
    if (stretch < items.size()) in.initial = QString::fromStdString(items[stretch]);
    in.tip =
        stretch < items.size()
            ? in.initial +
                  ". Click to type: rise 10 in 120 cycloidal, dwell 60, return in 90 3-4-5, spline to 10 in "
                  "120 through 30/2 60/7; cleared, it goes"
            : QString("One more stretch, such as dwell 30 or rise 4 in 60 harmonic");
    in.choices = {"rise 10 in 90 cycloidal", "dwell 30", "dwell", "return in 90 cycloidal"};
    in.commit = [&session, stretch](const QString& typed) {
        const std::string text = session.text_of(field::timing).toStdString();
        return session.edit(field::timing, QString::fromStdString(with_timing_item(
                                               text, stretch, typed.trimmed().toStdString())));
    };
    return in;
}

QString fitting_words(const QFont& font, QString words, double room) {
    while (words.contains(' ') && number_width(font, words) > room)
        words = words.left(words.lastIndexOf(' '));
    return number_width(font, words) > room ? QString("…") : words;
}

void draw_stretches(Canvas& view, QPainter& p, const Motion& asked, double y,
                    const std::function<double(double)>& x) {
    const std::vector<std::string> items = stretches_of(view.session());
    for (std::size_t i = 0; i < items.size(); ++i) {
        double from = 1e300, to = -1e300;
        for (const MotionPart& part : asked.parts)
            if (part.stretch == i) {
                from = std::min(from, part.from);
                to = std::max(to, part.to);
            }
        if (to < from) continue;
        Canvas::Spot spot;
        static_cast<Input&>(spot) = stretch_input(view.session(), i);
        view.dimension_text(p, {(x(from) + x(to)) / 2, y},
                            fitting_words(p.font(), QString::fromStdString(items[i]), x(to) - x(from) - 9),
                            std::move(spot));
    }
}

void stretch_rows(SheetBuilder& b, const ResolvedZone&) {
    const std::vector<std::string> items = stretches_of(b.session());
    if (b.session().text_of(field::timing).isEmpty()) return; // of a second lobe the first one says it
    for (std::size_t i = 0; i <= items.size(); ++i) {
        const bool more = i == items.size();
        SheetRow& row = b.asked(more ? QString("Add a stretch") : QString::number(i + 1), {},
                                more ? QString("…") : QString::fromStdString(items[i]), {}, {});
        row.input = stretch_input(b.session(), i);
    }
}

} // namespace whorl::app
