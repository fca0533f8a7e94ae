# SPDX-License-Identifier: GPL-3.0-or-later
"""The law of a way of air with arrays, as the method states it: for whoever solves our networks with other programs."""
import numpy as np


class Flows:
    """Of one network as outside_values prints it: flows and the books of mass at any pressures of its inner zones."""

    def __init__(self, network):
        self.celsius = np.array(network["temperature_c"])
        self.density = network["absolute_pa"] / (287.05 * (self.celsius + 273.15))
        viscosity = 1.716e-5 * ((self.celsius + 273.15) / 273.15) ** 1.5 * (273.15 + 110.4) / (self.celsius + 273.15 + 110.4)
        self.rows = np.array(network["branches"], float)
        i, j = self.i, self.j = self.rows[:, 0].astype(int), self.rows[:, 1].astype(int)
        r, m = (self.density[i] + self.density[j]) / 2, (viscosity[i] + viscosity[j]) / 2
        has, share = self.rows[:, 6] >= 0, np.maximum(self.rows[:, 6], 0)
        free, off, k = np.where(has, self.rows[:, 7], 1), np.where(has, self.rows[:, 8], 0), r / 1.2
        self.A = m * self.rows[:, 2] + 0.6 * k * off * share / free
        self.B = r * self.rows[:, 3] + 0.4 * k * off / free**2
        self.X = (self.density[j] - self.density[i]) * 9.80665 * self.rows[:, 4] + k * off * share**2

    def volume(self, inner):
        """m3/s of each branch."""
        p = np.concatenate(([0.0], inner))
        x = p[self.i] - p[self.j] + self.X
        return 2 * x / (self.A + np.sqrt(self.A**2 + 4 * self.B * np.abs(x)))

    def leaving(self, inner):
        """Mass that leaves each inner zone, g/s."""
        q = self.volume(inner)
        mass = q * np.where(q >= 0, self.density[self.i], self.density[self.j])
        return (np.bincount(self.i, mass, len(self.celsius)) - np.bincount(self.j, mass, len(self.celsius)))[1:] * 1e3
