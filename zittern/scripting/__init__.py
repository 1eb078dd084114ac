"""The Python API: `import zittern`.

In dependency order:

motion  evaluated motion as arrays with names
shot    a shot: opened, created, edited, checked, exported

>>> import zittern
>>> shot = zittern.new("Walk", last_frame=96, seed=1)
>>> shot = shot.key("mount:camera.z_m", {1: 0.0, 96: -4.0}).add_preset("brisk-walk", amount=0.8)
>>> motion = shot.evaluate()
>>> motion.pose["z_m"].shape, sorted(motion.axes)[:3]
((96,), ['dolly', 'focus', 'pan'])
"""

from zittern.core.errors import ZitternError
from zittern.scripting.motion import Motion
from zittern.scripting.shot import Shot, commands, new, open, presets

__all__ = ["Motion", "Shot", "ZitternError", "commands", "new", "open", "presets"]
