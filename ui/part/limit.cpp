#include "ui/part/limit.h"

#include "core/document/edits.h"
#include "core/mask/registry.h"
#include "ui/control/combo_box.h"
#include "ui/control/fold.h"
#include "ui/part/rows.h"
#include "ui/session/key_table.h"
#include "ui/text/words.h"

namespace dimhem::ui {

namespace {

void keep(Session& session, const EditTarget& target, const mask::ShapeKind* kind) {
    session.edit(kind ? QObject::tr("keep part to a range") : QObject::tr("free part of its range"),
                 [&](const document::Document& d) {
                     return document::withPart(d, target.correction, target.part, [&](mask::Part& p) {
                         p.limit = kind ? kind->makeFor(session.renderer().photo().size()) : nullptr;
                     });
                 });
}

void workOnLimit(Session& session) {
    session.setWorksOnLimit(true);
    session.say(QObject::tr("Set the range on the photo or by its settings; %1 goes back to the part itself.")
                    .arg(keyText("leave")));
}

const mask::Part* partOf(const SettingsBuilder& b) {
    const document::Correction* correction =
        b.session.isOpen() ? document::findCorrection(*b.session.document(), b.target.correction) : nullptr;
    return correction ? mask::findPart(correction->mask, b.target.part) : nullptr;
}

void choose(const SettingsBuilder& b, const mask::ShapeKind* kind) {
    const mask::Part* part = partOf(b);
    if (!part || kind == (part->limit ? &part->limit->kind() : nullptr)) return;
    keep(b.session, b.target, kind);
    kind ? workOnLimit(b.session) : b.session.setWorksOnLimit(false);
}

void addKinds(const SettingsBuilder& b) {
    auto* kinds = new ComboBox(b.body, ComboBox::Width::given);
    kinds->setObjectName("limit-kind");
    kinds->setAccessibleName(QObject::tr("Keep the part to"));
    kinds->setToolTip(QObject::tr("The part covers only what lies in that range"));
    kinds->addItem(QObject::tr("all it covers"), QString());
    for (const mask::ShapeKind* kind : mask::shapeKinds()) {
        if (!kind->isRange) continue;
        kinds->addItem(words(kind->label), idText(kind->id));
        kinds->setItemData(kinds->count() - 1, words(kind->tip), Qt::ToolTipRole);
    }
    b.onRefresh([b, kinds] {
        const mask::Part* part = partOf(b);
        if (part) kinds->setCurrentIndex(kinds->findData(part->limit ? idText(part->limit->kind().id) : QString()));
    });
    QObject::connect(kinds, &QComboBox::activated, &b.session, [b, kinds](int index) {
        choose(b, mask::findShapeKind(kinds->itemData(index).toString().toStdString()));
    });
    addLabelled(b, QObject::tr("Keep to"), kinds);
}

void addOnPhoto(const SettingsBuilder& b) {
    static constexpr base::ParamSpec onPhoto = {.id = "limit-on-photo",
                                                .label = "Set on the photo",
                                                .tip = "A press on the photo sets the range, not the part.",
                                                .toggle = true};
    auto* onThePhoto = new ValueSwitch(onPhoto, b.body);
    onThePhoto->setObjectName("limit-on-photo");
    const auto show = [b, onThePhoto] { onThePhoto->setValue(b.session.worksOnLimit()); };
    b.onRefresh(show);
    QObject::connect(&b.session, &Session::viewChanged, onThePhoto, show);
    QObject::connect(onThePhoto, &ValueSwitch::changed, &b.session, [b](bool on) { b.session.setWorksOnLimit(on); });
    b.layout->addWidget(onThePhoto);
}

}  // namespace

void keepToRange(Session& session, const mask::ShapeKind& kind) {
    const mask::Part* part = session.isOpen() ? session.part() : nullptr;
    if (!part) return;
    if (part->shape->isZone())
        return session.say(QObject::tr("Fine detail follows the mask above it: keep that to a range."));
    if (!part->limit || &part->limit->kind() != &kind) keep(session, {session.selectedCorrection(), part->id}, &kind);
    workOnLimit(session);
}

void addLimit(const SettingsBuilder& b, const mask::Part& part) {
    auto* fold = new Fold(QObject::tr("Kept to a range"), "limit",
                          QObject::tr("A range of tone, colour, haze or veil that this part alone is kept to"), b.body);
    b.layout->addWidget(fold);
    EditTarget target = b.target;
    target.of = &mask::Part::limit;
    const SettingsBuilder inside{b.session, target, fold->rows(), fold->body(), b.onRefresh};
    addKinds(inside);
    if (part.limit) {
        addOnPhoto(inside);
        buildShapeSettings(inside, *part.limit);
    }
    b.onRefresh([b, fold] {
        const mask::Part* now = partOf(b);
        if (now) fold->setSummary(now->limit ? words(now->limit->kind().label) : QObject::tr("nothing set"));
    });
}

}  // namespace dimhem::ui
