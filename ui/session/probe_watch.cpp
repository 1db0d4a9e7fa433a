#include "ui/session/probe_watch.h"

#include "core/document/edits.h"

namespace dimhem::ui {

namespace {

constexpr int probePauseMs = 60;

}  // namespace

ProbeWatch::ProbeWatch(Session& session, QObject* parent)
    : QObject(parent), session_(session), watch_(session, probePauseMs, this) {
    connect(&watch_, &Watch::due, this, &ProbeWatch::start);
    connect(&session_, &Session::opened, this, [this] {
        readings_.clear();
        Q_EMIT changed();
        watch_.soon();
    });
    connect(&session_, &Session::pictureChanged, &watch_, &Watch::soon);
}

void ProbeWatch::start() {
    if (!session_.isOpen() || session_.document()->probes.empty()) {
        readings_.clear();
        Q_EMIT changed();
        return;
    }
    watch_.run(
        [renderer = session_.sharedRenderer(), document = session_.document()](const base::CancelToken& token) {
            std::vector<std::optional<task::ProbeReading>> readings;
            for (const document::Probe& probe : document->probes) {
                if (token.cancelled()) break;
                readings.push_back(task::readProbe(*renderer, document, probe));
            }
            return readings;
        },
        [this](base::Result<std::vector<std::optional<task::ProbeReading>>> readings) {
            if (!readings) return;
            readings_ = std::move(*readings);
            Q_EMIT changed();
        });
}

void ProbeWatch::add(base::Point place) {
    if (!session_.isOpen()) return;
    if (session_.document()->probes.size() >= document::mostProbes) {
        session_.say(tr("There are eight probes, as many as there can be: remove one first."));
        return;
    }
    document::Probe probe;
    probe.place = place;
    session_.edit(tr("add probe"), [&](const document::Document& d) { return document::withNewProbe(d, probe); });
}

}  // namespace dimhem::ui
