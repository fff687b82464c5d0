"""Options that say how a picture is written; the file's ending says in which format."""

import argparse
import sys
from pathlib import Path
from typing import Any

from glasscap.cli import options
from glasscap.cli.finish_options import colour
from glasscap.cli.options import of_the_call
from glasscap.cli.streams import STANDARD
from glasscap.core.document.model.outputs import CROPS, PROFILES, FileOptions, FormatName, Output, OutputSize
from glasscap.core.document.model.paint import ColourPaint, Paint
from glasscap.core.errors import CallError, ExportError
from glasscap.core.formats.outgoing import Encoded
from glasscap.core.formats.page_size import page_ppi
from glasscap.core.formats.registry import FORMATS, format_of

_PALETTE = 256
# Which options concern which formats alone.
_COMPANY: dict[str, tuple[FormatName, ...]] = {
    "dither": ("indexed",),
    "quality": ("webp", "avif", "jpeg"),
    "lossless": ("webp",),
    "premultiplied": ("tiff",),
}


def add_file_options(parser: argparse.ArgumentParser, *, default_crop: str | None) -> None:
    """Declare them."""
    add = parser.add_argument
    add("--crop", choices=CROPS, default=default_crop, help="what the picture's box holds")
    add("--scale", type=options.positive, metavar="S", help="output px per sheet px (default 1)")
    parser.set_defaults(type_size=None)
    add("--size", action=_Size, metavar="WxH|longest=N", help="px of the picture, in place of --scale")
    add("--margin", type=options.number, default=0.0, metavar="N", help="px at 1x around the crop")
    add("--background", metavar="COLOUR", help="beneath the picture; JPEG has white where none is given")
    add("--carry", type=int, default=0, metavar="N", help="colour carried N px into transparent pixels")
    add("--palette", type=int, nargs="?", const=_PALETTE, metavar="N", help="indexed PNG of N colours")
    add("--dither", type=options.number, metavar="N", help="0 to 1, of an indexed PNG")
    add("--quality", type=int, metavar="N", help="1 to 100, of WebP, AVIF, JPEG")
    add("--lossless", action="store_true", help="WebP without loss")
    add("--small", action="store_true", help="a smaller file that takes longer")
    add("--bits", type=int, choices=(8, 16), default=8, help="a channel, of PNG and TIFF")
    add("--profile", choices=PROFILES, default="srgb", help="colour space of the file")
    add("--premultiplied", action="store_true", help="TIFF with premultiplied alpha, marked as such")
    add("--ppi", type=options.positive, metavar="N", help="pixels per inch written into the file")
    add("--keep-metadata", action="store_true", help="keep the photo's camera data and location")
    add("--json", action="store_true", help="print one line of JSON")


class _Size(argparse.Action):
    """``--size``: px of the picture; a number alone is the type size of ``--letters``."""

    def __call__(
        self,
        parser: argparse.ArgumentParser,
        namespace: argparse.Namespace,
        values: Any,
        option_string: Any = None,
    ) -> None:
        try:
            if values.replace(".", "", 1).isdecimal():
                namespace.type_size = options.positive(values)
            else:
                namespace.size = size(values)
        except argparse.ArgumentTypeError as error:
            parser.error(f"argument --size: {error}")


def size(text: str) -> OutputSize:
    """Return the size of ``WxH`` or ``longest=N``, ``width=N``, ``height=N``."""
    kind, equals, value = text.partition("=")
    try:
        if equals:
            side = int(value)
            if kind == "height":
                return OutputSize("height", height=side)
            if kind in ("longest", "width"):
                return OutputSize("longest" if kind == "longest" else "width", width=side)
        else:
            width, height = (int(v) for v in text.lower().split("x"))
            return OutputSize("box", width=width, height=height)
    except ExportError as error:
        raise argparse.ArgumentTypeError(error.line) from error
    except ValueError:
        pass
    raise argparse.ArgumentTypeError(f"{text!r} is not WxH or longest=N")


def output_of(call: argparse.Namespace, item_id: str, path: str, backdrop: Paint | None = None) -> Output:
    """Return the row a call asks for. Raises CallError."""
    if call.type_size is not None and not getattr(call, "letters", None):
        raise CallError("--size", "a number alone is the type size of --letters", "give WxH or longest=N")
    if call.size is not None and call.scale is not None:
        raise CallError("--size", "it does not go with --scale", "leave one out")
    name = format_name(path, call)
    background = colour_of(call)
    if background is not None and backdrop is not None:
        raise CallError("--background", "it does not go with --backdrop", "leave one out")
    beneath = None if name == "jpeg" or background is None else ColourPaint(background)
    with of_the_call():
        return Output(
            "o1",
            item_id,
            call.size or OutputSize(scale=call.scale or 1.0),
            call.crop or "visible",
            call.margin,
            backdrop or beneath,
            call.carry,
            file=_file(call, name, background),
        )


def _file(call: argparse.Namespace, name: FormatName, background: str | None) -> FileOptions:
    given: dict[str, Any] = {"colours": call.palette, "dither": call.dither, "quality": call.quality}
    return FileOptions(
        name,
        is_small=call.small,
        bits=call.bits,
        is_lossless=call.lossless,
        is_premultiplied=call.premultiplied,
        profile=call.profile,
        background=background or "#ffffff",
        ppi=call.ppi,
        keeps_metadata=call.keep_metadata,
        **{key: value for key, value in given.items() if value is not None},
    )


def format_name(path: str, call: argparse.Namespace) -> FormatName:
    """Return the format of an output; refuse options that belong to another. Raises CallError."""
    with of_the_call():
        name: FormatName = "png" if path == STANDARD else format_of(Path(path).suffix).name
    if call.palette is not None:
        if name != "png":
            raise CallError("--palette", "it belongs to PNG", "end the file in .png")
        name = "indexed"
    for option, formats in _COMPANY.items():
        if getattr(call, option) not in (None, False) and name not in formats:
            labels = " and ".join(FORMATS[f].label for f in formats)
            raise CallError(f"--{option}", f"it belongs to {labels}", "leave it out")
    return name


def colour_of(call: argparse.Namespace) -> str | None:
    """Return the colour beneath. Raises CallError."""
    if call.background is None:
        return None
    try:
        return colour(call.background)
    except ValueError as error:
        raise CallError(f"--background {call.background}", str(error), "for example #ffffff") from error


def say_losses(output: Output, encoded: Encoded) -> None:
    """Tell on standard error what the format loses, or cannot hold as it was asked for."""
    if output.file.format == "pdf" and (ppi := page_ppi(*encoded.planned.size, encoded.tags.ppi)):
        print(f"glasscap: no PDF page can have that size; this one is written at {ppi:g} ppi", file=sys.stderr)
    if output.file.format == "jpeg" and output.background is None:
        print(f"glasscap: JPEG has no transparency; laid over {output.file.background}", file=sys.stderr)
