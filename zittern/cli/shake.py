"""Command from camera files to camera files: shake."""

from __future__ import annotations

import re
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from zittern.cli.documents import check_writable, tell, write_shot_to
from zittern.cli.options import MAX_COUNT, Centimeters, OneCamera, Reduce, ZUp, app, frames_in

if TYPE_CHECKING:
    from zittern.core.shot.shot import Shot

__all__ = ["shake"]

_NAME = "{name}"


@app.command()
def shake(
    inputs: Annotated[list[Path], typer.Argument(metavar="IN…", help="Camera paths, or .shot.json files.")],
    output: Annotated[str, typer.Option("-o", help="File to write; {name} is the input's name without its ending.")],
    preset: Annotated[str, typer.Option("--preset", help="Name of a preset, or a .preset.json file.")],
    amount: Annotated[str, typer.Option("--amount", help="Of its strength, in percent.")] = "100%",
    seed: Annotated[int, typer.Option("--seed", min=0, max=MAX_COUNT, help="Another motion, the same each time.")] = 0,
    axes: Annotated[
        str | None, typer.Option("--axes", help="Only these: rotations, translations, lens, shifts, or names of axes.")
    ] = None,
    frames: Annotated[str | None, typer.Option("--range", help="First and last frame, A-B.")] = None,
    fps: Annotated[
        str | None, typer.Option("--fps", help="Frame rate, as 24 or 24000/1001; the file's own when left out.")
    ] = None,
    camera: Annotated[str | None, typer.Option("--camera", help="Which camera, when there are several.")] = None,
    z_up: ZUp = False,
    centimeters: Centimeters = False,
    step: Annotated[float, typer.Option("--step", help="Frames between two samples.")] = 1.0,
    reduce: Reduce = None,
    one_camera: OneCamera = False,
) -> int:
    """Put the motion of a preset on camera paths; exit code 1 if some of several files failed.

    Files with different names shake differently; the same file always shakes the same.
    """
    from zittern.core.axes import AXES
    from zittern.core.errors import ZitternError
    from zittern.formats.delivery import Delivery
    from zittern.formats.opening import fps_from, open_path
    from zittern.formats.reduced import tolerance_from
    from zittern.formats.table import format_of
    from zittern.formats.world_axes import Reading
    from zittern.shaking import Shake, axes_named, preset_named, seed_for, shaken

    key, found = preset_named(preset, "--preset")
    chosen = AXES if axes is None else axes_named(axes, "--axes")
    settings = Shake(found, key, _share(amount), chosen, _span(frames))
    outputs = _outputs(inputs, output)
    format_ = format_of(output)
    delivery = Delivery(step, tolerance_from(reduce, "--reduce"), one_camera)
    delivery.check(format_)
    rate = fps_from(fps, "--fps")
    for path in outputs:
        check_writable(path)

    def shot_of(path: Path) -> Shot:
        opened = open_path(path, camera, rate, reading=Reading(z_up, centimeters))
        tell(opened.notices)
        return shaken(opened.shot, settings, seed_for(path.name, seed))

    failed = False
    for source, target in zip(inputs, outputs, strict=True):
        try:
            write_shot_to(target, format_, shot_of(source), delivery)
        except ZitternError as error:
            if len(inputs) == 1:
                raise
            print(f"error: {source}: {error}", file=sys.stderr)
            failed = True
        else:
            print(target)
    return int(failed)


def _outputs(inputs: list[Path], output: str) -> list[Path]:
    """Return the output of each input. Raises BadInput for outputs that overwrite an input or each other."""
    from zittern.core.errors import BadInput

    if len(inputs) > 1 and _NAME not in output:
        raise BadInput(f"several inputs need {_NAME} in the output, as shaken/{_NAME}.glb", "-o")
    outputs = [Path(output.replace(_NAME, path.name.partition(".")[0])) for path in inputs]
    taken = {path.resolve(): path for path in inputs}
    for source, target in zip(inputs, outputs, strict=True):
        if target.resolve() in taken:
            raise BadInput(f"{source} would be written to {target}, which is used already; choose another name", "-o")
        taken[target.resolve()] = target
    return outputs


def _share(text: str) -> float:
    from zittern.core.errors import BadInput
    from zittern.shaking import MOST_AMOUNT

    found = re.fullmatch(r"(\d{1,6}(?:\.\d{1,9})?)\s*%?", text.strip())
    share = float(found.group(1)) / 100.0 if found else -1.0
    if not 0.0 < share <= MOST_AMOUNT:
        raise BadInput(
            f"expected an amount above 0 % and up to {MOST_AMOUNT:.0%}, as 80%, got {text[:40]!r}", "--amount"
        )
    return share


def _span(text: str | None) -> tuple[float, float] | None:
    from zittern.core.errors import BadInput

    first, last = frames_in(text)
    if first is None or last is None:
        return None
    if first >= last:
        raise BadInput(f"the last frame comes after the first, got {first}-{last}", "--range")
    return float(first), float(last)
