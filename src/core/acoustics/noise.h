// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "core/air/predict.h"

namespace core::acoustics {

/// One fan heard at the listener.
struct NoiseSource {
    std::string id;
    std::string name;
    double ratedDba = 0; ///< at 1 m and full speed
    double speedShare = 0;
    double lossDb = 0;     ///< of what stands between the fan and the listener
    double obstacleDb = 0; ///< louder by what stands right before its blades
    double levelDba = 0;   ///< at the listener
    double powerShare = 0; ///< of the whole sound power, 0..1
    double bladeHz = 0;    ///< tone of its blades passing; 0: no fan
};

/// Two fans that run so close together that their tones swell and fade.
struct Beat {
    std::string one, other; ///< names
    double hz = 0;
};

struct Noise {
    std::vector<NoiseSource> sources; ///< loudest first
    std::vector<Beat> beats;          ///< of fans within 5 % of each other
    double totalDba = 0;
    double distanceM = 1;
    double bandDb = 5; ///< absolute uncertainty of a prediction; 2 for changes
};

/// Level of a fan at a speed share and distance: rated + 50 lg s - 20 lg r + 1.5 (desk) - loss, dB(A).
/// Source: fan sound law (50 to 60 lg of speed in the literature); desk and loss are engineering judgement.
[[nodiscard]] double fanLevel(double ratedDba, double speedShare, double distanceM, double lossDb);
/// Power sum of levels, dB; an empty list is silence (-infinity).
[[nodiscard]] double sumLevels(const std::vector<double>& levels);

/// Pairs whose blade tones are within 5 % of each other, and not the same.
[[nodiscard]] std::vector<Beat> beatsOf(const std::vector<NoiseSource>& fans);

[[nodiscard]] Noise noiseOf(const Build& build, const air::Prediction& prediction, double distanceM);

} // namespace core::acoustics
