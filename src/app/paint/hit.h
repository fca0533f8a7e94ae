// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#ifndef Q_MOC_RUN // moc stumbles over concepts
#include "core/model/thing.h"
#endif

#include <QRectF>
#include <QString>

namespace app {

/// What a click on a place does, where it does more than select what the place stands for.
enum class Act {
    None,
    // of Fit
    ChooseCut,
    SlideCut,
    DragCut,
    MoveSheet,
    ShowAll,
    ChooseList,
    TurnList,
    NextSort,
    NextFilter,
    ShowHarm,
    ApplyMend,
    FillIn,
    PrintSheet,
    DragCorner,
    StateCorners,
    // of Air, Brief and the revisions
    TurnFan,
    ChooseWay,
    OpenWay,
    DrawWay,
    TurnTaught,
    SaveCurves,
    SaveSheet,
    TurnOpen,
    ChooseSight,
    TurnDifference,
    SetMoment,
    OwnValue,
    SetSpeed,
    AddPart,
    EditBox,
    AddAdapter,
    DragSocket,
    DragPlug,
    UseAdapter,
    LookAt,
    Compare,
    // of every list
    ScrollList,
    SortList,
    FilterList,
    // of the window
    OpenStation,
    OpenMenu,
    FoldWorking,
    FirstFinding,
    AllFindings,
    ShowFinding,
};

/// An act with what it needs to know.
struct Handle {
    Act act = Act::None;
    core::Thing of;                  ///< the fan that is turned, the part that is used
    QString list;                    ///< id of the list that is scrolled, sorted or filtered
    int row = -1;                    ///< of a list; a column, a station
    core::Axis axis = core::Axis::X; ///< of a cut
    double fromMm = 0, toMm = 0;     ///< what a slider spans; equal: the whole case
    friend bool operator==(const Handle&, const Handle&) = default;
};

/// A place on a drawing that stands for something: clicked, hovered, reached with J and K, read out by name.
struct Hit {
    QRectF rect;
    core::Thing thing; ///< what is selected there; nothing: it only acts
    Handle handle;
    QString name;

    [[nodiscard]] bool is(Act act) const { return handle.act == act; }
    /// A figure or thing to step to, rather than something to act with.
    [[nodiscard]] bool isFigure() const { return handle.act == Act::None && !core::isNothing(thing); }
};

} // namespace app
