// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/subjects.h"

#include "core/base/text.h"
#include "core/model/build.h"

namespace store {
namespace {

using core::Channel;
using core::ChannelKind;
using core::PartKind;

struct Word {
    std::string_view word;
    PartKind kind;
    const char* text;
};
constexpr std::array<Word, 3> words{{{"processor", PartKind::Processor, "the processor"},
                                     {"card", PartKind::Card, "the card"},
                                     {"drive", PartKind::Drive, "a drive"}}};

bool mentions(const std::string& heading, std::initializer_list<const char*> any) {
    const std::string h = core::asciiLower(heading);
    return std::any_of(any.begin(), any.end(), [&](const char* w) { return h.find(w) != std::string::npos; });
}

std::vector<const core::Placed*> placedOf(const core::Build& build, PartKind kind) {
    std::vector<const core::Placed*> all;
    for (const core::Placed& p : build.placed)
        if (p.part->kind == kind)
            all.push_back(&p);
    return all;
}

class Assigner {
public:
    Assigner(const core::Build& build, core::Samples& samples) : m_build(build), m_samples(samples) {}

    void named(const Word& word) {
        const auto parts = placedOf(m_build, word.kind);
        for (const ChannelKind kind :
             {ChannelKind::Temperature, ChannelKind::Clock, ChannelKind::Rpm, ChannelKind::Power, ChannelKind::Ambient,
              ChannelKind::Level, ChannelKind::Other})
            group(word, kind, parts);
    }
    void assumed() {
        const core::Placed* cpu = m_build.firstOf(PartKind::Processor);
        for (const ChannelKind kind : {ChannelKind::Temperature, ChannelKind::Clock}) {
            std::vector<Channel*> unnamed;
            bool known = false;
            for (Channel& c : m_samples.channels)
                if (c.kind == kind) {
                    known = known || (cpu && c.subject == cpu->mount);
                    if (c.subject.empty())
                        unnamed.push_back(&c);
                }
            if (!cpu || known || unnamed.size() != 1 || isAmbiguous(unnamed.front()->name))
                continue;
            unnamed.front()->subject = cpu->mount;
            unnamed.front()->assumed = true;
        }
    }
    std::vector<Ambiguous> found;

private:
    [[nodiscard]] bool isAmbiguous(const std::string& column) const {
        return std::any_of(found.begin(), found.end(), [&](const Ambiguous& a) {
            return std::find(a.columns.begin(), a.columns.end(), column) != a.columns.end();
        });
    }
    [[nodiscard]] bool taken(const std::string& mount, ChannelKind kind) const {
        return std::any_of(m_samples.channels.begin(), m_samples.channels.end(),
                           [&](const Channel& c) { return c.kind == kind && c.subject == mount; });
    }
    void group(const Word& word, ChannelKind kind, const std::vector<const core::Placed*>& parts) {
        std::vector<Channel*> columns;
        for (Channel& c : m_samples.channels)
            if (c.subject == word.word && c.kind == kind)
                columns.push_back(&c);
        if (columns.empty())
            return;
        for (Channel* c : columns)
            c->subject.clear();
        if (parts.empty() || (parts.size() == 1 && taken(parts.front()->mount, kind)))
            return; // there is none, or the user said which column it is
        if (parts.size() == 1 && columns.size() == 1) {
            columns.front()->subject = parts.front()->mount;
            return;
        }
        if (parts.size() == 1) {
            if (Channel* whole = wholeOf(columns))
                whole->subject = parts.front()->mount;
            else if (kind == ChannelKind::Temperature)
                tell(word, columns, {});
            return;
        }
        std::vector<Channel*> unclear;
        for (Channel* c : columns)
            if (!byName(*c, parts))
                unclear.push_back(c);
        if (!unclear.empty() && kind == ChannelKind::Temperature)
            tell(word, unclear, parts);
    }
    /// The one column that speaks of the whole package.
    static Channel* wholeOf(const std::vector<Channel*>& columns) {
        Channel* whole = nullptr;
        for (Channel* c : columns)
            if (mentions(c->name, {"package", "tdie", "tctl", "whole"})) {
                if (whole)
                    return nullptr;
                whole = c;
            }
        return whole;
    }
    /// A heading that has the name of the part, or of its place.
    static bool byName(Channel& c, const std::vector<const core::Placed*>& parts) {
        const core::Placed* one = nullptr;
        const std::string h = core::asciiLower(c.name);
        for (const core::Placed* p : parts) {
            const auto slash = p->mount.rfind('/');
            const std::string place =
                core::asciiLower(slash == std::string::npos ? p->mount : p->mount.substr(slash + 1));
            if (h.find(core::asciiLower(p->name)) == std::string::npos && h.find(place) == std::string::npos)
                continue;
            if (one)
                return false;
            one = p;
        }
        if (one)
            c.subject = one->mount;
        return one != nullptr;
    }
    void tell(const Word& word, const std::vector<Channel*>& columns, const std::vector<const core::Placed*>& parts) {
        Ambiguous a{.part = word.text, .candidates = {}, .columns = {}};
        for (const Channel* c : columns)
            a.columns.push_back(c->name);
        a.candidates = a.columns;
        if (!parts.empty()) {
            a.candidates.clear();
            for (const core::Placed* p : parts)
                a.candidates.push_back(p->mount);
        }
        found.push_back(std::move(a));
    }

    const core::Build& m_build;
    core::Samples& m_samples;
};

std::string listed(const std::vector<std::string>& items) {
    std::string text;
    for (const std::string& item : items)
        text += (text.empty() ? "\"" : ", \"") + item + "\"";
    return text;
}

} // namespace

std::string Ambiguous::text() const {
    if (candidates == columns)
        return std::to_string(columns.size()) + " columns could be the temperature of " + part + ": " + listed(columns);
    return (columns.size() == 1 ? "the column " : "the columns ") + listed(columns) +
           " could be of several: " + listed(candidates);
}

std::vector<Ambiguous> assignSubjects(const core::Project& project, const std::string& revision, core::Samples& samples,
                                      Guess guess) {
    const auto build = core::resolve(project, revision);
    if (!build)
        return {};
    Assigner assigner(*build, samples);
    for (const Word& word : words)
        assigner.named(word);
    if (guess == Guess::Assume)
        assigner.assumed();
    return std::move(assigner.found);
}

core::Result<void> assignSubject(const core::Project& project, const std::string& revision, const std::string& said,
                                 core::Samples& samples) {
    const auto equals = said.rfind('=');
    if (equals == std::string::npos)
        return core::problem("--subject " + said, "there is no \"=\" in it",
                             "COLUMN=MOUNT, e.g. \"CPU Package=tray/cpu\"");
    const std::string column = said.substr(0, equals), mount = said.substr(equals + 1);
    const auto build = core::resolve(project, revision);
    if (!build)
        return tl::make_unexpected(build.error());
    const auto channel = std::find_if(samples.channels.begin(), samples.channels.end(),
                                      [&](const Channel& c) { return c.name == column; });
    if (channel == samples.channels.end())
        return core::problem("--subject " + said, "the log has no column \"" + column + "\"", "one of its headings");
    if (!mount.empty() && !build->at(mount))
        return core::problem("--subject " + said, "nothing is placed at \"" + mount + "\"",
                             "a mount of the revision, e.g. \"tray/cpu\"");
    channel->subject = mount;
    channel->assumed = false;
    return {};
}

} // namespace store
