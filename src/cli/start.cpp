// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/commands.h"
#include "core/arrange/arrangement.h"
#include "core/base/text.h"
#include "store/csv.h"

namespace cli {
namespace {
using core::arrange::Arrangement;

store::Json about(const Arrangement& a) {
    store::Json sizes = store::Json::array(), ways = store::Json::array();
    for (const auto& s : a.sizes)
        sizes.push_back(
            {{"key", s.key}, {"label", s.label}, {"usual_mm", s.usualMm}, {"low_mm", s.lowMm}, {"high_mm", s.highMm}});
    for (const auto& w : a.ways)
        ways.push_back({{"way", w.id}, {"name", w.name}});
    return {{"arrangement", a.id}, {"name", a.name}, {"takes", a.takes}, {"sizes", sizes}, {"ways", ways}};
}

int list(bool json) {
    store::Json all = store::Json::array();
    for (const Arrangement& a : core::arrange::arrangements())
        all.push_back(about(a));
    if (json) {
        print(all);
        return ExitFine;
    }
    for (const Arrangement& a : core::arrange::arrangements()) {
        say("%s: %s (%s)\n", std::string(a.id).c_str(), std::string(a.name).c_str(), std::string(a.takes).c_str());
        for (const auto& s : a.sizes)
            say("    --size %s=%g   %s, mm\n", std::string(s.key).c_str(), s.usualMm, std::string(s.label).c_str());
        for (const auto& w : a.ways)
            say("    --way %s   %s\n", std::string(w.id).c_str(), std::string(w.name).c_str());
    }
    return ExitFine;
}

/// Takes "width=148": a size that is said counts as measured with a caliper, those that are not stay estimates.
core::Result<void> takeSize(const Arrangement& a, const std::string& said, core::arrange::Sizes& sizes) {
    const auto equals = said.find('=');
    const std::string key = said.substr(0, equals);
    const auto mm = equals == std::string::npos ? std::nullopt : core::numberFrom(said.substr(equals + 1));
    for (std::size_t i = 0; i < a.sizes.size(); ++i)
        if (a.sizes[i].key == key && mm) {
            sizes.all[i] = core::measureMm(*mm, core::Source::Caliper);
            return {};
        }
    std::string keys;
    for (const auto& s : a.sizes)
        keys += (keys.empty() ? "" : ", ") + std::string(s.key);
    return core::problem("--size " + said, "is not understood", "KEY=MM with one of: " + keys);
}
} // namespace

int start(const Options& options) {
    if (options.what.empty())
        return list(options.json);
    const Arrangement* a = core::arrange::arrangement(options.what);
    if (!a)
        return badInput({options.what, "is no arrangement", "mini-draft-cli start lists them"});
    if (options.output.empty())
        return badInput({"--output", "is not given", "-o FILE.minidraft or a folder"});
    core::arrange::Sizes sizes = core::arrange::usualSizes(*a);
    for (const std::string& said : options.sizes)
        if (const auto done = takeSize(*a, said, sizes); !done)
            return badInput(done.error());
    auto box = core::arrange::makeBox(*a, sizes, options.way);
    if (!box)
        return badInput(box.error());
    const std::string name = options.name.empty() ? std::string(a->name) : options.name;
    core::Project project;
    if (options.parts.empty()) {
        project = core::arrange::startWith(*a, std::move(*box), name);
    } else {
        const auto text = store::readFile(options.parts);
        if (!text)
            return badInput(text.error());
        const auto parts = store::readShelfJson(*text, options.parts);
        if (!parts)
            return badInput(parts.error());
        auto meant = core::arrange::meantProject(*a, std::move(*box), *parts);
        if (!meant)
            return badInput(meant.error());
        project = std::move(*meant);
        project.name = name;
    }
    if (const auto wrong = core::validate(project); !wrong.empty())
        return badInput(wrong.front());
    const QString path = QString::fromStdString(options.output);
    if (const auto done = store::saveProject(
            project, path, {.foreign = options.force ? store::Foreign::Replace : store::Foreign::Refuse});
        !done)
        return badInput(done.error());
    if (options.json)
        print({{"project", options.output}, {"parts", project.shelf.size()}});
    else
        say("%s: %s, %zu parts\n", options.output.c_str(), name.c_str(), project.shelf.size());
    return ExitFine;
}

} // namespace cli
