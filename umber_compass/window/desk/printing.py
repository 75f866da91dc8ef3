"""A page of SVG as PDF, whose shapes and text stay shapes and text, as a picture, or as it is."""

from pathlib import Path

from PySide6.QtCore import QBuffer, QByteArray, QIODevice, QMarginsF, QRectF, QSizeF
from PySide6.QtGui import QImage, QPageSize, QPainter, QPdfWriter
from PySide6.QtSvg import QSvgRenderer

from umber_compass.window.widgets.bitmap import png_of
from umber_compass.words import Refusal, words

ENDINGS = (".pdf", ".svg", ".png")
_DPI = 200  # of a picture
_PDF_DPI = 300  # of the places in a PDF
_MM_PER_INCH = 25.4
_UNITS = 10  # of the page, for a millimetre
_FALLBACK = ", sans-serif"  # for other programs; Qt takes a list of families for one name


def file_of(svg: str, path: Path, title: str) -> bytes:
    """The bytes of a page in the format that a path's ending tells. Raises Refusal for another."""
    ending = path.suffix.lower()
    if ending == ".svg":
        return svg.encode()
    if ending == ".pdf":
        return _pdf(svg, title)
    if ending == ".png":
        return _png(svg)
    line = words("a sheet is a .pdf, .svg or .png; end its name so")
    raise Refusal(path.name, line)


def picture_of(svg: str, width_px: int) -> QImage:
    """The page as an image so many px wide."""
    page = _renderer(svg)
    box = page.viewBoxF()
    image = QImage(
        width_px, max(1, round(width_px * box.height() / box.width())), QImage.Format.Format_RGB32
    )
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    page.render(painter)
    painter.end()
    return image


def _renderer(svg: str) -> QSvgRenderer:
    return QSvgRenderer(QByteArray(svg.replace(_FALLBACK, "", 1).encode()))


def _png(svg: str) -> bytes:
    box = _renderer(svg).viewBoxF()
    image = picture_of(svg, round(box.width() / _UNITS / _MM_PER_INCH * _DPI))
    dots = round(_DPI / _MM_PER_INCH * 1000)
    image.setDotsPerMeterX(dots)
    image.setDotsPerMeterY(dots)
    return png_of(image)


def _pdf(svg: str, title: str) -> bytes:
    page = _renderer(svg)
    box = page.viewBoxF()
    held = QBuffer()
    held.open(QIODevice.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(held)
    writer.setTitle(title)
    writer.setCreator("Umber Compass")
    writer.setResolution(_PDF_DPI)
    size = QSizeF(box.width() / _UNITS, box.height() / _UNITS)
    writer.setPageSize(QPageSize(size, QPageSize.Unit.Millimeter))
    writer.setPageMargins(QMarginsF(0, 0, 0, 0))
    painter = QPainter(writer)
    page.render(painter, QRectF(0, 0, writer.width(), writer.height()))
    painter.end()
    return bytes(held.data().data())
