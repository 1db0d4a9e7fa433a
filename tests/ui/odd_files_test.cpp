// Files that are odd or none, opened in the window: what can be shown is shown, and the rest is one sentence.
#include <gtest/gtest.h>
#include <sys/stat.h>

#include <QBuffer>
#include <QLabel>

#include "core/document/edits.h"
#include "core/mask/outline.h"
#include "tests/ui/photos.h"
#include "tests/ui/window.h"

namespace dimhem::tests {

namespace {

class OddFiles : public WindowTest {
protected:
    QString at(const std::string& name) const { return QString::fromStdString((folder / name).string()); }
    std::string message() const { return w.window.message().toStdString(); }

    // A JPEG of noise, so that its bytes are spread over all of its rows.
    QByteArray jpeg() const {
        QImage image(160, 120, QImage::Format_RGB32);
        for (int y = 0; y < 120; ++y) {
            for (int x = 0; x < 160; ++x) image.setPixelColor(x, y, QColor(x, y, (x * 7 + y * 13) % 256));
        }
        QByteArray bytes;
        QBuffer buffer(&bytes);
        buffer.open(QIODevice::WriteOnly);
        image.save(&buffer, "JPEG", 95);
        return bytes;
    }
};

}  // namespace

TEST_F(OddFiles, ACutJpegIsShownAndSaysSo) {
    const QByteArray whole = jpeg();
    written(folder / "cut.jpg", std::vector<std::uint8_t>(whole.begin(), whole.begin() + whole.size() * 2 / 3));
    ASSERT_TRUE(w.open(at("cut.jpg")));
    EXPECT_EQ(w.session().renderer().photo().size(), (base::Size{160, 120}));
    EXPECT_NE(message().find("ends too early"), std::string::npos) << message();
}

TEST_F(OddFiles, PipesDevicesAndNamesThatAreNotUtf8AreOneSentence) {
    ASSERT_EQ(::mkfifo((folder / "pipe").c_str(), 0600), 0);
    for (const QString& path :
         {at("pipe"), QString("/dev/zero"), at("caf") + QChar(QChar::ReplacementCharacter) + ".png"}) {
        w.window.openFile(path);
        ASSERT_TRUE(w.settle());
        EXPECT_FALSE(w.session().isOpen());
        EXPECT_TRUE(message().ends_with(".")) << message();
        w.session().say({});
    }
}

TEST_F(OddFiles, ADocumentThatBeginsWithAByteOrderMarkOpens) {
    const QByteArray bytes = jpeg();
    written(folder / "photo.jpg", std::vector<std::uint8_t>(bytes.begin(), bytes.end()));
    written(folder / "hand.json",
            std::string("\xef\xbb\xbf\r\n{\"format\": \"dim-hem-document\", \"version\": 1, \"photo\": "
                        "{\"path\": \"photo.jpg\"}, \"corrections\": [{\"name\": \"by hand\"}]}"));
    ASSERT_TRUE(w.open(at("hand.json")));
    EXPECT_EQ(w.session().document()->corrections.size(), 1u);
}

TEST_F(OddFiles, ASnapThatWouldLoseTheOutlineIsRefusedWithANote) {
    QImage even(400, 300, QImage::Format_RGB32);
    even.fill(QColor(120, 120, 120));
    even.save(at("even.png"));
    ASSERT_TRUE(w.open(at("even.png")));
    std::vector<base::Point> disc;
    for (int i = 0; i < 24; ++i) disc.push_back({200 + 7 * std::cos(i * 0.2618), 150 + 7 * std::sin(i * 0.2618)});
    w.session().addCorrection({}, "correction");
    w.session().addPart(mask::Outline::kindInfo);
    const auto setSnap = [&](double snap) {
        w.session().edit("snap", [&](const document::Document& d) {
            return document::withPart(d, w.session().selectedCorrection(), w.session().selectedPart(),
                                      [&](mask::Part& p) { p.shape = std::make_shared<mask::Outline>(disc, 0, snap); });
        });
        EXPECT_TRUE(w.settle());
    };
    setSnap(0);
    auto* note = w.find<QLabel>("snap-refused");
    ASSERT_TRUE(note);
    EXPECT_FALSE(note->isVisible());
    setSnap(40);
    EXPECT_TRUE(w.waitFor([&] { return note->isVisible(); }));
    EXPECT_GT(plate(200, 150), 250) << "as drawn";
    setSnap(0);
    EXPECT_TRUE(w.waitFor([&] { return !note->isVisible(); }));
}

}  // namespace dimhem::tests
