// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/base/choice.h"
#include "core/model/project.h"

// The words of every enum that is stored, and what they are called on a form.
namespace core {

MD_CHOICES(PartKind, {PartKind::Case, "case"}, {PartKind::Board, "board"}, {PartKind::Processor, "processor"},
           {PartKind::Cooler, "cooler"}, {PartKind::Fan, "fan"}, {PartKind::Card, "card"},
           {PartKind::PowerSupply, "supply"}, {PartKind::Drive, "drive"}, {PartKind::Memory, "memory"},
           {PartKind::Adapter, "adapter"}, {PartKind::Cable, "cable"}, {PartKind::Made, "made"},
           {PartKind::Radiator, "radiator"})
MD_CHOICES(Axis, {Axis::X, "x", "x, to the right"}, {Axis::Y, "y", "y, to the rear"}, {Axis::Z, "z", "z, upwards"})
MD_CHOICES(Direction, {{Axis::X, 1}, "+x"}, {{Axis::X, -1}, "-x"}, {{Axis::Y, 1}, "+y"}, {{Axis::Y, -1}, "-y"},
           {{Axis::Z, 1}, "+z"}, {{Axis::Z, -1}, "-z"})
MD_CHOICES(Side, {Side::Left, "left"}, {Side::Right, "right"}, {Side::Front, "front"}, {Side::Rear, "rear"},
           {Side::Bottom, "bottom"}, {Side::Top, "top"})
MD_CHOICES(Ref, {Ref::Low, "low"}, {Ref::High, "high"}, {Ref::Centre, "centre"}, {Ref::Above, "above"},
           {Ref::Below, "below"})
MD_CHOICES(OpeningStyle, {OpeningStyle::Mesh, "mesh"}, {OpeningStyle::Printed, "printed", "printed grille"},
           {OpeningStyle::Plain, "plain", "plain hole"}, {OpeningStyle::Closed, "closed"})
MD_CHOICES(Screen, {Screen::None, "none", "off"}, {Screen::Fine, "fine", "fine screen"},
           {Screen::Coarse, "coarse", "coarse screen"})
MD_CHOICES(FanMode, {FanMode::Fixed, "fixed", "held at a share of full speed"},
           {FanMode::Processor, "processor", "follows the processor"}, {FanMode::Card, "card", "follows the card"},
           {FanMode::Part, "part", "follows a part"})
MD_CHOICES(AirQuantity, {AirQuantity::Linear, "linear", "resistance to slow air, 1/m³"},
           {AirQuantity::Quadratic, "quadratic", "resistance to fast air, 1/m⁴"},
           {AirQuantity::Height, "height", "height, m"}, {AirQuantity::FreeFlow, "free-flow", "free flow, m³/s"},
           {AirQuantity::Shutoff, "shutoff", "pressure at no flow, Pa"}, {AirQuantity::Heat, "heat", "heat, W"},
           {AirQuantity::Wall, "wall", "through its walls, W/K"}, {AirQuantity::Die, "die", "die to sink, K/W"},
           {AirQuantity::Sink, "sink", "sink to its air, W/K"},
           {AirQuantity::Natural, "natural", "sink to the room around, W/K"})
MD_CHOICES(FanFlow, {FanFlow::In, "in"}, {FanFlow::Out, "out"})
MD_CHOICES(TargetKind, {TargetKind::Temperature, "temperature"}, {TargetKind::Noise, "noise"},
           {TargetKind::Clock, "clock"}, {TargetKind::Gap, "gap"}, {TargetKind::Volume, "volume"},
           {TargetKind::Mass, "mass"}, {TargetKind::Cost, "cost"}, {TargetKind::Power, "power"})
MD_CHOICES(ChannelKind, {ChannelKind::Temperature, "temperature"}, {ChannelKind::Ambient, "room"},
           {ChannelKind::Rpm, "rpm"}, {ChannelKind::Clock, "clock"}, {ChannelKind::Power, "power"},
           {ChannelKind::Level, "level"}, {ChannelKind::Other, "other"})
MD_CHOICES(Shape, {Shape::Box, "box"}, {Shape::Cylinder, "cylinder"}, {Shape::Tube, "tube"}, {Shape::Ribbon, "ribbon"})
MD_CHOICES(Use, {Use::Plug, "plug"}, {Use::Lead, "lead"}, {Use::Blades, "blades"}, {Use::Tool, "tool"},
           {Use::Foot, "foot"}, {Use::Frame, "frame"})
MD_CHOICES(PlugStyle, {PlugStyle::Straight, "straight", "straight plug"}, {PlugStyle::Angled, "angled", "angled plug"})
MD_CHOICES(BodyRole, {BodyRole::Solid, "solid"}, {BodyRole::KeepOut, "keep-out"})
MD_CHOICES(WallMaterial, {WallMaterial::Steel, "steel"}, {WallMaterial::Aluminium, "aluminium"},
           {WallMaterial::Plastic, "plastic"})
MD_CHOICES(CoolerType, {CoolerType::TopDown, "top-down"}, {CoolerType::Tower, "tower"},
           {CoolerType::Liquid, "liquid", "liquid, with a radiator"})
MD_CHOICES(CardCooler, {CardCooler::Single, "single", "one fan"}, {CardCooler::Dual, "dual", "two fans"},
           {CardCooler::Triple, "triple", "three fans"}, {CardCooler::Blower, "blower"})
MD_CHOICES(DriveForm, {DriveForm::Inch35, "3.5", "3.5 in"}, {DriveForm::Inch25, "2.5", "2.5 in"},
           {DriveForm::M2Bare, "m.2", "M.2, bare"}, {DriveForm::M2Sink, "m.2-sink", "M.2 with a heat sink"})
MD_CHOICES(Process, {Process::Print, "print", "printed"}, {Process::Cut, "cut"})
} // namespace core
