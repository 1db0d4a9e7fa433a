#include "bench/edges/drawn.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>

#include "core/colour/srgb.h"
#include "core/io/registry.h"
#include "core/kernel/gaussian.h"

namespace dimhem::edges {

namespace {

// As a lens out of focus blurs: the mean over a disc.
void discBlur(image::Plane<float>& plane, int radius) {
    image::Plane<float> out(plane.size());
    const int w = plane.size().width, h = plane.size().height;
    for (int y = 0; y < h; ++y) {
        for (int x = 0; x < w; ++x) {
            float sum = 0;
            int n = 0;
            for (int j = -radius; j <= radius; ++j) {
                const int half = static_cast<int>(std::sqrt(radius * radius - j * j));
                const float* row = plane.row(std::clamp(y + j, 0, h - 1)).data();
                for (int i = -half; i <= half; ++i, ++n) sum += row[std::clamp(x + i, 0, w - 1)];
            }
            out.row(y)[x] = sum / static_cast<float>(n);
        }
    }
    plane = std::move(out);
}

void mix(const Scene& scene, image::EncodedPlanes& out) {
    const auto plane = [&](const image::Plane<float>& f, const image::Plane<float>& b, image::Plane<float>& to) {
        for (int y = 0; y < scene.size().height; ++y) {
            for (int x = 0; x < scene.size().width; ++x) {
                const float a = scene.matte.row(y)[x];
                to.row(y)[x] = a * f.row(y)[x] + (1 - a) * b.row(y)[x];
            }
        }
    };
    plane(scene.subject.red, scene.backdrop.red, out.red);
    plane(scene.subject.green, scene.backdrop.green, out.green);
    plane(scene.subject.blue, scene.backdrop.blue, out.blue);
}

}  // namespace

image::Photo load(const std::string& path) {
    auto photo = io::readPhoto(path);
    if (!photo) {
        std::fprintf(stderr, "%s\n", photo.error().message.c_str());
        std::exit(1);
    }
    return std::move(*photo);
}

image::EncodedPlanes linearCrop(const image::Photo& photo, int x0, int y0, base::Size size, int step) {
    image::EncodedPlanes out(size);
    std::vector<float> row(static_cast<std::size_t>(photo.size().width * photo.samples.channels()));
    // Past the picture's end it goes on mirrored.
    const auto mirrored = [](int v, int length) { return v < length ? v : 2 * length - 1 - v; };
    for (int y = 0; y < size.height; ++y) {
        photo.samples.readRow(mirrored(y0 + y * step, photo.size().height), 0, photo.size().width, row.data());
        for (int x = 0; x < size.width; ++x) {
            const int at = mirrored(x0 + x * step, photo.size().width) * photo.samples.channels();
            const auto linear = [&](int c) {
                return static_cast<float>(colour::linearFromEncoded(double{row[static_cast<std::size_t>(at + c)]}));
            };
            out.red.row(y)[x] = linear(0);
            out.green.row(y)[x] = linear(1);
            out.blue.row(y)[x] = linear(2);
        }
    }
    return out;
}

// Drawn at four times the size and averaged.
image::Plane<float> bodyMatte(Random& random) {
    const double phase[4] = {random.uniform() * 6.28, random.uniform() * 6.28, random.uniform() * 6.28,
                             random.uniform() * 6.28};
    const double cx = random.between(520, 640), cy = random.between(440, 480);
    const auto inside = [&](double x, double y) {
        const double angle = std::atan2(y - cy, x - cx);
        const double wobble = 1 + 0.10 * std::sin(3 * angle + phase[0]) + 0.05 * std::sin(7 * angle + phase[1]) +
                              0.02 * std::sin(17 * angle + phase[2]) + 0.006 * std::sin(41 * angle + phase[3]);
        if (std::hypot((x - cx) / 1.25, y - cy) < 215 * wobble) return true;
        if (std::hypot(x - cx - 40, y - cy + 260) < 88 + 5 * std::sin(9 * angle)) return true;
        return std::abs(y - (cy - 60) + 0.35 * (x - cx)) < 13 && x > cx && x < cx + 420;  // the stick
    };
    image::Plane<float> matte(compositeSize);
    for (int y = 0; y < compositeSize.height; ++y) {
        for (int x = 0; x < compositeSize.width; ++x) {
            int count = 0;
            for (int i = 0; i < 16; ++i) count += inside(x + (i % 4 + 0.5) / 4, y + (i / 4 + 0.5) / 4) ? 1 : 0;
            matte.row(y)[x] = static_cast<float>(count) / 16;
        }
    }
    return matte;
}

image::Plane<float> rodMatte(Random& random) {
    struct Rod {
        double x, slope, radius;
    };
    std::vector<Rod> rods;
    for (int i = 0; i < 14; ++i) rods.push_back({60 + 80.0 * i, random.between(-0.15, 0.15), 0.6 * std::pow(1.25, i)});
    image::Plane<float> matte(compositeSize);
    for (int y = 0; y < compositeSize.height; ++y) {
        for (int x = 0; x < compositeSize.width; ++x) {
            float covered = 0;
            for (const Rod& rod : rods) {
                const double d = std::abs(x + 0.5 - rod.x - rod.slope * (y - 400)) / std::hypot(1, rod.slope);
                const double c = std::clamp(rod.radius - d + 0.5, 0.0, std::min(1.0, 2 * rod.radius));
                covered = std::max(covered, static_cast<float>(c));
            }
            matte.row(y)[x] = covered;
        }
    }
    return matte;
}

image::EncodedPlanes shaded(const float colour[3], Random& random) {
    image::EncodedPlanes out(compositeSize);
    for (int y = 0; y < compositeSize.height; ++y) {
        for (int x = 0; x < compositeSize.width; ++x) {
            const double light =
                1.25 - 0.55 * (x / 1200.0) - 0.35 * (y / 800.0) + 0.12 * std::sin(x / 90.0 + y / 140.0);
            const double grain = 1 + 0.02 * random.normal();
            out.red.row(y)[x] = static_cast<float>(colour[0] * light * grain);
            out.green.row(y)[x] = static_cast<float>(colour[1] * light * grain);
            out.blue.row(y)[x] = static_cast<float>(colour[2] * light * grain);
        }
    }
    return out;
}

std::shared_ptr<const render::PhotoSource> camera(const image::EncodedPlanes& linear, double noise, Random& random) {
    auto photo = std::make_shared<image::Photo>();
    photo->samples = image::Samples(linear.size(), 3, image::SampleType::u8);
    photo->format = "made";
    for (int y = 0; y < linear.size().height; ++y) {
        std::byte* to = photo->samples.row(y);
        for (int x = 0; x < linear.size().width; ++x) {
            const double grey = random.normal() * noise;
            for (const float v : {linear.red.row(y)[x], linear.green.row(y)[x], linear.blue.row(y)[x]}) {
                const double e = colour::encodedFromLinear(double{v}) + grey + 0.5 * noise * random.normal();
                *to++ = static_cast<std::byte>(std::lround(std::clamp(e, 0.0, 1.0) * 255));
            }
        }
    }
    return *render::PhotoSource::make(photo);
}

Scene composite(std::string name, Difficulty difficulty, image::EncodedPlanes subject, image::EncodedPlanes backdrop,
                image::Plane<float> matte, int softPx, double noise, Random& random) {
    Scene scene{std::move(name), difficulty, nullptr, std::move(matte), std::move(subject), std::move(backdrop)};
    if (softPx > 0) discBlur(scene.matte, softPx);
    // The lens: what the matte is mixed with is the matte as the camera sees it.
    kernel::gaussianBlur(scene.matte, 0.7);
    image::EncodedPlanes mixed(scene.size());
    mix(scene, mixed);
    scene.photo = camera(mixed, noise, random);
    return scene;
}

}  // namespace dimhem::edges
