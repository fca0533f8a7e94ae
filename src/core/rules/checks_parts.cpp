// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/model/standard_sizes.h"
#include "core/rules/checks.h"

namespace core::rules {
namespace {

template <class T> bool contains(const std::vector<T>& items, const T& item) {
    return std::find(items.begin(), items.end(), item) != items.end();
}

void socketOfProcessor(const Checks& c) {
    const Placed* at = nullptr;
    const auto* board = c.specOf<BoardSpec>(PartKind::Board);
    const auto* cpu = c.specOf<ProcessorSpec>(PartKind::Processor, &at);
    if (board && cpu && board->socket != cpu->socket)
        c.add("socket", Severity::Blocker, at->mount,
              say("{} has socket {}, the board has {}", at->name, cpu->socket, board->socket),
              {say("a processor for {}", board->socket), say("a board with {}", cpu->socket)});
}

void socketOfCooler(const Checks& c) {
    const Placed* at = nullptr;
    const auto* cpu = c.specOf<ProcessorSpec>(PartKind::Processor);
    const auto* cooler = c.specOf<CoolerSpec>(PartKind::Cooler, &at);
    if (cpu && cooler && !cooler->sockets.empty() && !contains(cooler->sockets, cpu->socket))
        c.add("cooler-socket", Severity::Blocker, at->mount,
              say("{} has no mounting kit for socket {}", at->name, cpu->socket),
              {say("a mounting kit for {}", cpu->socket), say("another cooler")});
    if (cpu && !cooler)
        c.add("cooler-missing", Severity::Blocker, c.build.firstOf(PartKind::Processor)->mount,
              say("The processor has no cooler"), {say("place a cooler on its lid")});
}

void formOfBoard(const Checks& c) {
    const Placed* at = nullptr;
    const auto* board = c.specOf<BoardSpec>(PartKind::Board, &at);
    const auto& forms = c.build.caseSpec().boardForms;
    if (board && !forms.empty() && !contains(forms, board->form))
        c.add("board-form", Severity::Blocker, at->mount,
              say("{} is {}, the case takes {}", at->name, board->form, forms.front()),
              {say("a board of form {}", forms.front())});
}

void pictureOutput(const Checks& c) {
    const Placed* at = nullptr;
    const auto* cpu = c.specOf<ProcessorSpec>(PartKind::Processor, &at);
    const auto* board = c.specOf<BoardSpec>(PartKind::Board);
    if (!cpu || c.build.firstOf(PartKind::Card))
        return;
    if (!cpu->graphics || (board && !board->graphicsOutput))
        c.add("picture", Severity::Blocker, at->mount,
              say("No picture at first set-up: no card, and the processor shows none"),
              {say("a card"), say("a processor with graphics")});
}

/// A part that names a form but has another outline: most often a size was mistyped. Longer supplies and cards exist.
void sizeOfForm(const Checks& c) {
    for (const Placed& p : c.build.placed) {
        const StandardSize* standard = standardOf(*p.part);
        if (!standard || p.part->kind == PartKind::Fan || p.part->kind == PartKind::Card)
            continue;
        const double off = offStandardMm(*p.part, *standard);
        if (off > 2)
            c.add("form-size", Severity::Note, p.mount,
                  say("{} says it is {}, but is {} off its size ({})", p.name, std::string(standard->form),
                      figure::mm(off, 1), std::string(standard->source)),
                  {say("check the size"), say("another form")});
    }
}

} // namespace

void checkParts(const Checks& c) {
    socketOfProcessor(c);
    socketOfCooler(c);
    formOfBoard(c);
    pictureOutput(c);
    sizeOfForm(c);
}

void checkMemory(const Checks& c) {
    const auto* board = c.specOf<BoardSpec>(PartKind::Board);
    if (!board)
        return;
    int modules = 0;
    std::string mount;
    for (const Placed& p : c.build.placed) {
        if (p.part->kind != PartKind::Memory)
            continue;
        const auto& memory = std::get<MemorySpec>(p.part->spec);
        modules += memory.modules;
        mount = p.mount;
        if (memory.memoryKind != board->memoryKind)
            c.add("memory-kind", Severity::Blocker, p.mount,
                  say("{} does not match the board's {}", p.name, board->memoryKind),
                  {say("memory of kind {}", board->memoryKind)});
    }
    // Slots that are counted as sockets are told there, once.
    if (modules > board->memorySlots && !c.wiring.ports.isShort("memory-slot"))
        c.add("memory-slots", Severity::Blocker, mount,
              say("{} modules for {} memory slots", modules, board->memorySlots), {say("fewer, larger modules")});
    if (modules > 0 && modules == board->memoryChannels && board->memorySlots == 2 * board->memoryChannels)
        c.add("memory-fill", Severity::Note, mount,
              say("Fill the second slot of each channel first (common practice); the board's book has the last word"),
              {say("second and fourth slot from the processor")});
    if (modules > 0 && modules < board->memoryChannels)
        c.add("memory-channels", Severity::Note, mount,
              say("{} of {} memory channels in use: the others lie idle", modules, board->memoryChannels),
              {say("one module for each channel")});
}

} // namespace core::rules
