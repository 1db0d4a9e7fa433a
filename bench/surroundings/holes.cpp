// Holes made in clean pictures: spots of three sizes at seeded places, smooth and textured, and scratches across. What
// each way of filling makes of them, beside two simple means: the mean colour of what is around, and a clone from a
// fixed place beside.
#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <random>

#include "bench/surroundings/outcomes.h"
#include "bench/surroundings/pictures.h"
#include "core/colour/ciede2000.h"
#include "core/colour/lab.h"
#include "core/document/json_format.h"
#include "core/image/tiles.h"

namespace dimhem::surroundings {

namespace {

using Clock = std::chrono::steady_clock;

struct Hole {
    base::Point from, to;  // of a stroke
    double size;           // its diameter
};

std::string stroke(const Hole& hole, const std::string& brings) {
    char text[400];
    std::snprintf(text, sizeof text, R"({"size": %.1f, "softness": 0, "points": [[%.1f, %.1f], [%.1f, %.1f]]%s})",
                  hole.size, hole.from.x, hole.from.y, hole.to.x, hole.to.y, brings.c_str());
    return text;
}

document::DocumentPtr documentOf(const Hole& hole, const std::string& brings, const std::string& adjustment) {
    const auto document = document::fromJsonText(
        R"({"format": "dim-hem-document", "version": 1, "photo": {"path": "photo.png"}, "corrections": [{"mask": {"parts": [
            {"kind": "brush", "strokes": [)" +
        stroke(hole, brings) + R"(]}]}, "adjustments": [)" + adjustment + "]}]}");
    if (!document) throw std::runtime_error(document.error().message);
    return *document;
}

double distanceTo(const Hole& hole, double x, double y) {
    const base::Point way = hole.to - hole.from, off = base::Point{x, y} - hole.from;
    const double length = way.x * way.x + way.y * way.y;
    const double along = length > 0 ? std::clamp((off.x * way.x + off.y * way.y) / length, 0.0, 1.0) : 0;
    return std::hypot(off.x - along * way.x, off.y - along * way.y);
}

base::Rect around(const Hole& hole, base::Size size) {
    const int by = static_cast<int>(hole.size / 2) + 24;
    const base::Rect rect{
        static_cast<int>(std::min(hole.from.x, hole.to.x)), static_cast<int>(std::min(hole.from.y, hole.to.y)),
        static_cast<int>(std::max(hole.from.x, hole.to.x)), static_cast<int>(std::max(hole.from.y, hole.to.y))};
    return base::intersected(base::grown(rect, by), base::rectOf(size));
}

struct Means {
    double inside = 0, edge = 0;
};

// Mean CIEDE2000 in the hole, and of that in its outer three pixels.
Means differenceIn(const Hole& hole, const base::Rect& rect, const image::EncodedPlanes& made,
                   const image::EncodedPlanes& clean) {
    Means sum, count;
    for (int y = rect.y0; y < rect.y1; ++y) {
        for (int x = rect.x0; x < rect.x1; ++x) {
            const double in = hole.size / 2 - distanceTo(hole, x + 0.5, y + 0.5);
            if (in < 0) continue;
            const auto lab = [](const image::EncodedPlanes& p, int px, int py) {
                return colour::labFromEncoded({double{p.red.view().at(px, py)}, double{p.green.view().at(px, py)},
                                               double{p.blue.view().at(px, py)}});
            };
            const double d = colour::ciede2000(lab(made, x - rect.x0, y - rect.y0), lab(clean, x, y));
            sum.inside += d;
            count.inside += 1;
            if (in > 3) continue;
            sum.edge += d;
            count.edge += 1;
        }
    }
    return {sum.inside / count.inside, sum.edge / std::max(1.0, count.edge)};
}

// The picture with the hole blown out.
image::EncodedPlanes blown(const image::EncodedPlanes& clean, const Hole& hole, const base::Rect& rect) {
    image::EncodedPlanes out = copied(clean);
    for (int y = rect.y0; y < rect.y1; ++y) {
        for (int x = rect.x0; x < rect.x1; ++x) {
            if (distanceTo(hole, x + 0.5, y + 0.5) > hole.size / 2) continue;
            for (image::Plane<float>* plane : {&out.red, &out.green, &out.blue}) plane->view().at(x, y) = 1;
        }
    }
    return out;
}

struct Way {
    std::string name, brings, adjustment;
    std::vector<double> inside, edge, ms;
};

void report(const std::string& what, std::vector<Way>& ways) {
    for (Way& way : ways) {
        for (auto* values : {&way.inside, &way.edge, &way.ms}) std::ranges::sort(*values);
        std::printf("%-16s %-14s inside %5.2f worst %5.2f   edge %5.2f worst %5.2f   %6.1f ms worst %6.1f\n",
                    what.c_str(), way.name.c_str(), way.inside[way.inside.size() / 2], way.inside.back(),
                    way.edge[way.edge.size() / 2], way.edge.back(), way.ms[way.ms.size() / 2], way.ms.back());
        way.inside.clear();
        way.edge.clear();
        way.ms.clear();
    }
}

void tryWays(const image::EncodedPlanes& clean, const Hole& hole, std::vector<Way>& ways) {
    const base::Size size = clean.size();
    const base::Rect rect = around(hole, size);
    const image::EncodedPlanes damaged = blown(clean, hole, rect);
    const auto photo = photoOf(damaged);
    for (Way& way : ways) {
        image::EncodedPlanes made(rect.size());
        const auto begun = Clock::now();
        if (way.name == "mean around") {
            double sum[3] = {}, count = 0;
            for (int y = rect.y0; y < rect.y1; ++y) {
                for (int x = rect.x0; x < rect.x1; ++x) {
                    const double off = distanceTo(hole, x + 0.5, y + 0.5) - hole.size / 2;
                    if (off < 0 || off > 8) continue;
                    sum[0] += double{clean.red.view().at(x, y)}, sum[1] += double{clean.green.view().at(x, y)};
                    sum[2] += double{clean.blue.view().at(x, y)}, count += 1;
                }
            }
            made.red = image::filled(rect.size(), static_cast<float>(sum[0] / count));
            made.green = image::filled(rect.size(), static_cast<float>(sum[1] / count));
            made.blue = image::filled(rect.size(), static_cast<float>(sum[2] / count));
        } else {
            const render::Renderer renderer(photo, std::make_shared<render::TileCache>());
            renderer.picture(render::Sequence(documentOf(hole, way.brings, way.adjustment), {}), {rect, 0}, made);
        }
        way.ms.push_back(std::chrono::duration<double, std::milli>(Clock::now() - begun).count());
        const Means means = differenceIn(hole, rect, made, clean);
        way.inside.push_back(means.inside);
        way.edge.push_back(means.edge);
    }
}

}  // namespace

void holeOutcomes(const std::string& demo) {
    std::puts(
        "\nHoles filled: CIEDE2000 in the hole and in its outer three pixels, median over places and the worst; time "
        "of all of it\n");
    const std::string paint = R"({"kind": "paint", "amount": 100})";
    std::vector<image::EncodedPlanes> photos;
    for (const std::string name :
         {"bay-gradient", "figurehead", "chart-table", "harmonium", "tower-dusk", "headlands", "boathouse-print"})
        photos.push_back(readPicture(demo + "/truth/" + name + "-clean.jpg"));
    for (const double size : {24.0, 100.0, 300.0}) {
        char beside[100];
        std::snprintf(beside, sizeof beside, R"(, "brings": {"kind": "clone", "offset": [%.0f, 0]})", 1.2 * size);
        std::vector<Way> ways{{"mean around", "", "", {}, {}, {}},
                              {"clone beside", beside, paint, {}, {}, {}},
                              {"smooth fill", "", R"({"kind": "smooth-fill", "amount": 100})", {}, {}, {}},
                              {"line fill", "", R"({"kind": "line-fill", "amount": 100})", {}, {}, {}},
                              {"texture fill", "", R"({"kind": "texture-fill", "amount": 100})", {}, {}, {}},
                              {"heal, found", R"(, "brings": {"kind": "heal"})", paint, {}, {}, {}}};
        for (std::size_t p = 0; p < photos.size(); ++p) {
            std::mt19937 random(static_cast<std::uint32_t>(17 * p + 3));
            for (int place = 0; place < (size > 200 ? 2 : 4); ++place) {
                std::uniform_real_distribution<double> x(1.8 * size, photos[p].size().width - 1.8 * size),
                    y(1.8 * size, photos[p].size().height - 1.8 * size);
                const base::Point at{std::floor(x(random)), std::floor(y(random))};
                tryWays(photos[p], {at, at, size}, ways);
            }
        }
        report("spot " + std::to_string(static_cast<int>(size)) + " px", ways);
    }
    std::vector<Way> ways{{"mean around", "", "", {}, {}, {}},
                          {"smooth fill", "", R"({"kind": "smooth-fill", "amount": 100, "border": 0.5})", {}, {}, {}},
                          {"line fill", "", R"({"kind": "line-fill", "amount": 100})", {}, {}, {}},
                          {"texture fill", "", R"({"kind": "texture-fill", "amount": 100})", {}, {}, {}},
                          {"line stroke", R"(, "brings": {"kind": "line"})", paint, {}, {}, {}}};
    for (std::size_t p = 0; p < photos.size(); ++p) {
        std::mt19937 random(static_cast<std::uint32_t>(31 * p + 5));
        std::uniform_real_distribution<double> x(60, photos[p].size().width - 60), y(60, photos[p].size().height - 60);
        for (int place = 0; place < 4; ++place) {
            const base::Point from{x(random), y(random)}, way{x(random) - from.x, y(random) - from.y};
            const double length = std::hypot(way.x, way.y);
            tryWays(photos[p], {from, from + way * std::min(1.0, 400 / length), 6}, ways);
        }
    }
    report("scratch 6 px", ways);
}

}  // namespace dimhem::surroundings
