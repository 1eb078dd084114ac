"""Search for presets.

Additional search words besides the texts of the cards, and the nearest presets without a match.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from difflib import SequenceMatcher

from zittern.core.presets.preset import Preset

__all__ = ["SEARCH_WORDS", "found", "nearest", "text_of"]

# By the key of a shipped preset. No card shows them.
SEARCH_WORDS: Mapping[str, str] = {
    "shoulder-standing": "handheld hand held documentary interview observational subtle standing still stabilized "
                         "steady sway shaky cam reportage news",
    "stand-off-long-lens": "handheld telephoto tele wildlife spy paparazzi interview subtle steady tripod stakeout "
                           "surveillance far heartbeat pulse",
    "careful-walk": "handheld footsteps steps walking gimbal steady stabilizer stabilised smooth follow walk-through "
                    "stroll tracking slow subtle",
    "brisk-walk": "handheld footsteps steps walking follow march hurry pov tracking documentary",
    "run": "handheld footsteps steps running jog sprint chase panic escape pov action flee",
    "crouched-creep": "handheld footsteps steps sneak stealth crawl horror suspense pov tiptoe creep low",
    "smooth-road": "car driving drive vehicle van train rail dashboard highway motorway tarmac bus tram taxi cruise "
                   "asphalt",
    "washboard": "bike bicycle cycling motorbike gravel dirt track off-road offroad 4x4 cobbles cobblestone bumpy "
                 "vibration rough rattle atv quad",
    "small-boat": "sea ship ocean waves sailing ferry raft water swell rocking sway dinghy yacht",
    "crowd-jostle": "handheld concert riot pushed shoved people mob market party dance pit festival",
    "startled": "jump scare shock flinch fright surprise jolt react gasp",
    "exhausted-breath": "handheld breathing panting tired out of breath fatigue pov nervous anxious asleep heavy",
    "hovering-machine": "drone quadcopter helicopter aerial flying hover gimbal uav copter chopper aircraft",
    "engine-hum": "motor vibration idle generator train machine subtle fine buzz bus truck lorry turbine mounted "
                  "cockpit plane aircraft",
    "rumble-in-waves": "earthquake quake distant thunder tremor bass subway underground train explosion far volcano "
                       "avalanche",
    "close-tremor": "earthquake quake collapse rocket launch explosion shaking destruction volcano avalanche disaster "
                    "launch violent",
    "thud": "impact drop door slam explosion bang crash stomp landing bump hit fall heavy cannon gun",
    "blow-against-the-camera": "impact punch hit crash collision fight knock kick explosion struck smash tackle",
    "passing-shock": "explosion blast shockwave wave impact bomb detonation boom thunder sonic",
    "heavy-stomp": "giant monster footsteps steps dinosaur robot titan stomp impact walk elephant huge kaiju",
    "stand-to-walk-to-run": "handheld footsteps steps speed up slow down accelerate start stop stroll jog sprint pov",
    "calm-to-alarmed": "handheld blend panic fear nervous anxious stress tension build up horror breathing suspense",
    "sound-road-to-washboard": "car driving vehicle blend gravel dirt track off-road tarmac asphalt bumpy rough",
}  # fmt: skip
_LEAST_LIKENESS = 0.6


def text_of(key: str, preset: Preset) -> str:
    """Return the searchable text of a preset."""
    return " ".join([preset.name, preset.line, *preset.tags, SEARCH_WORDS.get(key, "")]).lower()


def found(presets: Mapping[str, Preset], asked: str) -> list[str]:
    """Keys of the presets that have all the words, in their order."""
    words = asked.lower().split()
    return [key for key, preset in presets.items() if all(word in text_of(key, preset) for word in words)]


def nearest(presets: Mapping[str, Preset], asked: str, most: int = 4) -> list[str]:
    """Return keys of the presets that match most words, the nearest first.

    By words that they have, then by words much like these.
    """
    words = asked.lower().split()
    likeness = {
        key: sum(_likeness(word, text_of(key, preset).split()) for word in words) for key, preset in presets.items()
    }
    ranked = sorted((key for key in presets if likeness[key] > 0.0), key=lambda key: -likeness[key])
    return ranked[:most]


def _likeness(word: str, others: Sequence[str]) -> float:
    """1 for a word that is there, less than half for one that is much like one."""
    if any(word in other for other in others):
        return 1.0
    best = max((SequenceMatcher(None, word, other).ratio() for other in others), default=0.0)
    return 0.5 * best if best >= _LEAST_LIKENESS else 0.0
