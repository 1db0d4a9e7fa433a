#include "ui/part/kinds.h"

#include "core/mask/borrowed_mask.h"
#include "ui/control/combo_box.h"
#include "ui/part/rows.h"

namespace dimhem::ui {

void addBorrowed(const SettingsBuilder& b) {
    auto* from = new ComboBox(b.body, ComboBox::Width::given);
    from->setObjectName("borrow-from");
    from->setAccessibleName(QObject::tr("Borrow from"));
    from->setToolTip(QObject::tr("The correction whose mask is borrowed, live"));
    from->addItem(QObject::tr("Choose…"), 0);
    for (const auto& correction : b.session.document()->corrections) {
        if (correction->id != b.target.correction)
            from->addItem(QString::fromStdString(correction->name), QVariant::fromValue(correction->id));
    }
    const auto show = [b, from] {
        if (const auto shape = shapeOf<mask::BorrowedMask>(b))
            from->setCurrentIndex(std::max(0, from->findData(QVariant::fromValue(shape->from()))));
    };
    b.onRefresh(show);
    QObject::connect(from, &QComboBox::activated, &b.session, [b, from, show](int index) {
        const auto lender = from->itemData(index).toLongLong();
        if (lender && !document::canBorrow(*b.session.document(), b.target.correction, lender)) {
            b.session.say(QObject::tr("%1 already borrows this correction's mask: each would need the other first.")
                              .arg(from->itemText(index)));
            show();
            return;
        }
        if (lender && document::deepestBorrowing(*b.session.document(), document::Loan{b.target.correction, lender}) >
                          document::mostBorrowing) {
            b.session.say(QObject::tr("More than %1 masks would borrow each from the next: that is as far as it goes.")
                              .arg(document::mostBorrowing));
            show();
            return;
        }
        editShape<mask::BorrowedMask>(b, QObject::tr("borrow mask"), [&](const mask::BorrowedMask&) {
            return std::make_shared<mask::BorrowedMask>(lender);
        });
    });
    addLabelled(b, QObject::tr("From"), from);
    addHint(b, QObject::tr("What changes in that mask changes here. F inverts it."));
}

}  // namespace dimhem::ui
