"""Stretches cut out of curves: what lies outside stays the same curve, and what is run backwards keeps its form."""

from __future__ import annotations

from fractions import Fraction

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from eddyfield.core.errors import DomainError
from eddyfield.core.time.bending import Bend
from eddyfield.core.time.channels import Beyond, Channel
from eddyfield.core.time.dividing import SUDDEN, divided, replaced_within
from eddyfield.core.time.keys import KEY_SHAPES, RULING, Handle, Key
from eddyfield.core.time.retiming import Retiming, mirrored, retimed

TIMES = np.arange(-5, 90, 0.173) + 0.0137


@st.composite
def curves(draw: st.DrawFn, first: int = 0, last: int = 80, least: int = 2) -> tuple[Key, ...]:
    """Keys of all shapes on halves of frames. Handles never stand a curve upright, where its value is no function of time."""
    halves = sorted(draw(st.sets(st.integers(first * 2, last * 2), min_size=least, max_size=9)))
    gaps = np.diff(halves) / 2
    keys = []
    for index, half in enumerate(halves):
        shape, near = draw(st.sampled_from(KEY_SHAPES)), gaps[max(0, index - 1) : index + 1]
        handle = st.builds(Handle, st.floats(0, 0.9 * min(near, default=1.0)), st.floats(-9, 9))
        handles = [draw(st.none() | handle) if shape in (*RULING, "curve") else None for _ in range(2)]
        keys.append(Key(Fraction(half, 2), draw(st.floats(-50, 50)), shape, *handles))
    return tuple(keys)


def same(one: np.ndarray, other: np.ndarray) -> None:
    np.testing.assert_allclose(one, other, rtol=0, atol=1e-9)


@given(curves(), st.lists(st.fractions(-5, 90, max_denominator=12), max_size=3))
@settings(max_examples=150)
def test_keys_more_leave_the_curve_as_it_was(keys: tuple[Key, ...], times: list[Fraction]) -> None:
    channel = Channel(0.0, keys)
    more = divided(channel, times)
    same(more.at(TIMES), channel.at(TIMES))
    same(more.at(channel.times), channel.at(channel.times))
    within = [time for time in times if keys[0].time < time < keys[-1].time]
    assert all(more.key_at(time) for time in within)


@given(curves(least=0), curves(20, 50, 1))
@settings(max_examples=300)
def test_what_lies_outside_a_stretch_stays_the_same_curve(keys: tuple[Key, ...], new: tuple[Key, ...]) -> None:
    channel = Channel(3.0, keys)
    changed = replaced_within(channel, new)
    first, last, sudden = float(new[0].time), float(new[-1].time), float(SUDDEN) * 1.01
    outside = (first - sudden > TIMES) | (last + sudden < TIMES)
    same(changed.at(TIMES)[outside], channel.at(TIMES)[outside])
    inside = (first < TIMES) & (last > TIMES)
    if len(new) > 1:
        same(changed.at(TIMES)[inside], Channel(0.0, new).at(TIMES)[inside])


def test_what_runs_again_beyond_its_keys_is_not_cut() -> None:
    again = Channel(0.0, (Key(Fraction(0), 0.0), Key(Fraction(8), 1.0)), Beyond(after="cycle"))
    with pytest.raises(DomainError, match="run through again"):
        replaced_within(again, [Key(Fraction(2), 0.5)])


@given(curves())
@settings(max_examples=200)
def test_a_move_run_backwards_is_its_mirror_image_and_twice_what_it_was(keys: tuple[Key, ...]) -> None:
    channel, (first, last) = Channel(0.0, keys), (keys[0].time, keys[-1].time)
    turned = mirrored(channel, first, last)
    same(turned.at(float(first + last) - TIMES), channel.at(TIMES))
    twice = mirrored(turned, first, last)
    same(twice.at(TIMES), channel.at(TIMES))
    same(twice.at(channel.times), channel.at(channel.times))


@given(curves(least=5), st.integers(0, 8), st.integers(0, 8))
@settings(max_examples=200)
def test_some_keys_run_backwards_mirror_the_segments_between_them(keys: tuple[Key, ...], a: int, b: int) -> None:
    channel, (begin, end) = Channel(0.0, keys), sorted((a % len(keys), b % len(keys)))
    first, last = keys[begin].time, keys[end].time
    backwards, chosen = Retiming(Fraction(-1), first, last - first), range(begin, end + 1)
    turned = retimed(channel, chosen, backwards)
    inside = (float(first) < TIMES) & (float(last) > TIMES)
    same(turned.at(float(first + last) - TIMES)[inside], channel.at(TIMES)[inside])
    same(retimed(turned, chosen, backwards).at(TIMES)[inside], channel.at(TIMES)[inside])


@given(curves(), st.integers(-5, 80), st.integers(1, 40), st.sampled_from([0.25, 0.7, 2.0, 3.0, 0.0, -1.0, -0.5, -2.0]))
@settings(max_examples=200)
def test_what_is_keyed_in_any_shape_is_shown_at_the_moments_of_a_bend(
    keys: tuple[Key, ...], first: int, length: int, speed: float
) -> None:
    channel, bend = Channel(0.0, keys), Bend.at(first, first + length, speed)
    moments = bend.moments(TIMES)
    jumps = np.abs(moments[:, None] - channel.times).min(axis=1) < 1e-6
    np.testing.assert_allclose(bend.channel(channel).at(TIMES)[~jumps], channel.at(moments)[~jumps], atol=1e-7)
