// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paint/theme.h"

#include <QFontDatabase>

#include <cmath>

namespace app {
namespace {

struct Lab {
    double l, a, b;
};

double linear(double c) { return c <= 0.04045 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4); }
double gamma(double c) { return c <= 0.0031308 ? 12.92 * c : 1.055 * std::pow(c, 1 / 2.4) - 0.055; }

// B. Ottosson's OKLab (2020), matrices from memory.
Lab toLab(const QColor& q) {
    const double r = linear(q.redF()), g = linear(q.greenF()), b = linear(q.blueF());
    const double l = std::cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
    const double m = std::cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
    const double s = std::cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
    return {0.2104542553 * l + 0.7936177850 * m - 0.0040720468 * s,
            1.9779984951 * l - 2.4285922050 * m + 0.4505937099 * s,
            0.0259040371 * l + 0.7827717662 * m - 0.8086757660 * s};
}

QColor fromLab(const Lab& c) {
    const double l = std::pow(c.l + 0.3963377774 * c.a + 0.2158037573 * c.b, 3),
                 m = std::pow(c.l - 0.1055613458 * c.a - 0.0638541728 * c.b, 3),
                 s = std::pow(c.l - 0.0894841775 * c.a - 1.2914855480 * c.b, 3);
    const auto part = [](double v) { return static_cast<float>(std::clamp(gamma(std::max(0.0, v)), 0.0, 1.0)); };
    return QColor::fromRgbF(part(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s),
                            part(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s),
                            part(-0.0041960863 * l - 0.7034186147 * m + 1.7076147010 * s));
}

std::array<QColor, 256> ramp(const std::array<const char*, 7>& stops) {
    std::array<QColor, 256> out;
    for (int i = 0; i < 256; ++i) {
        const double x = i / 255.0 * 6;
        const int k = std::min(5, static_cast<int>(x));
        const Lab a = toLab(QColor(QLatin1String(stops[static_cast<std::size_t>(k)]))),
                  b = toLab(QColor(QLatin1String(stops[static_cast<std::size_t>(k) + 1])));
        const double f = x - k;
        out[static_cast<std::size_t>(i)] =
            fromLab({a.l + f * (b.l - a.l), a.a + f * (b.a - a.a), a.b + f * (b.b - a.b)});
    }
    return out;
}

QColor hex(const char* text) { return QColor(QLatin1String(text)); }

} // namespace

Theme Theme::light() {
    Theme t;
    t.paper = hex("#F4EEE1");
    t.sheet = hex("#FCF9F2");
    t.tray = hex("#E8E0CF");
    t.field = hex("#FFFDF8");
    t.night = hex("#DCD3C0");
    t.ink = hex("#26282B");
    t.ink2 = hex("#55534C");
    t.line = hex("#837D70");
    t.hair = hex("#D5CCBA");
    t.marker = hex("#F8E08A");
    t.medge = hex("#7A5C00");
    t.mdot = hex("#F8E08A");
    t.ok = hex("#2F6638");
    t.tight = hex("#855000");
    t.block = hex("#8F1D5B");
    t.cool = hex("#0B5F6B");
    t.warm = hex("#A93417");
    t.tint = ramp({"#5EB4C0", "#93C1BF", "#BDCCBE", "#E1D0B6", "#E7B496", "#E99979", "#E97B58"});
    t.flow = ramp({"#0B5F6B", "#496B63", "#707659", "#957F49", "#A87336", "#AA5728", "#A93417"});
    return t;
}

Theme Theme::night_() {
    Theme t;
    t.dark = true;
    t.paper = hex("#1E2225");
    t.sheet = hex("#282D31");
    t.tray = hex("#16191B");
    t.field = hex("#14171A");
    t.night = hex("#121517");
    t.ink = hex("#EDE7DA");
    t.ink2 = hex("#B9B3A6");
    t.line = hex("#858582");
    t.hair = hex("#3B4146");
    t.marker = hex("#483B0B");
    t.medge = hex("#F2CF62");
    t.mdot = hex("#F2CF62");
    t.ok = hex("#8FC88F");
    t.tight = hex("#E9B65C");
    t.block = hex("#F292C4");
    t.cool = hex("#5CC0CB");
    t.warm = hex("#F2855F");
    t.tint = ramp({"#146671", "#365B5B", "#465046", "#564734", "#6E4732", "#83452E", "#9A4129"});
    t.flow = ramp({"#5CC0CB", "#88BEB7", "#A7BCA4", "#C5B88E", "#D7A97D", "#E5986F", "#F2855F"});
    return t;
}

QFont Theme::font(double px, Weight weight) const {
    // The weights register as families of their own; setWeight() on the first changes nothing.
    static const std::array<QString, 3> families{QStringLiteral("Asap Condensed"),
                                                 QStringLiteral("Asap Condensed Medium"),
                                                 QStringLiteral("Asap Condensed SemiBold")};
    QFont f;
    f.setFamilies({families[static_cast<std::size_t>(weight)], QStringLiteral("sans-serif")});
    // Whole pixels keep the figures in step; a weight that registers as a family must stay at its own normal weight.
    f.setPixelSize(std::max(11, static_cast<int>(std::lround(px * textScale))));
    f.setWordSpacing(0.07 * f.pixelSize());
    return f;
}

QPalette Theme::palette() const {
    QPalette p;
    p.setColor(QPalette::Window, paper);
    p.setColor(QPalette::WindowText, ink);
    p.setColor(QPalette::Base, field);
    p.setColor(QPalette::AlternateBase, sheet);
    p.setColor(QPalette::Text, ink);
    p.setColor(QPalette::Button, sheet);
    p.setColor(QPalette::ButtonText, ink);
    p.setColor(QPalette::ToolTipBase, sheet);
    p.setColor(QPalette::ToolTipText, ink);
    p.setColor(QPalette::PlaceholderText, ink2);
    p.setColor(QPalette::Highlight, marker);
    p.setColor(QPalette::HighlightedText, ink);
    p.setColor(QPalette::Link, ink);
    p.setColor(QPalette::Mid, line);
    p.setColor(QPalette::Dark, line);
    p.setColor(QPalette::Light, sheet);
    p.setColor(QPalette::Midlight, hair);
    p.setColor(QPalette::Shadow, line);
    for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
        p.setColor(QPalette::Disabled, role, ink2);
    return p;
}

void loadFonts() {
    for (const auto* file :
         {":/fonts/AsapCondensed-400.ttf", ":/fonts/AsapCondensed-500.ttf", ":/fonts/AsapCondensed-600.ttf"})
        QFontDatabase::addApplicationFont(QLatin1String(file));
}

double contrast(const QColor& a, const QColor& b) {
    const auto luminance = [](const QColor& c) {
        return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
    };
    const double x = luminance(a), y = luminance(b);
    return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

} // namespace app
