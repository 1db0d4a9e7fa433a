"""Odd but valid pictures of every format the program reads, each with the pixels it must come to.

Usage: make_zoo.py FOLDER. Writes the files, FOLDER/zoo.json and, for each file that must be read, NAME.expected: a header
of three little-endian 32-bit numbers (width, height, channels), then 32-bit floats, row by row, channels interleaved:
encoded samples scaled to 0..1, or linear light where the entry says so.

TIFF and OpenEXR are put together here byte by byte from their specifications (TIFF 6.0 and its supplements; the technical
introduction to OpenEXR), so that nothing of the libraries that read them takes part. JPEG, PNG and WebP are written by
Pillow and then changed. What pixels are expected comes from how the picture was made; where "reference" names a reader,
that reader was also asked, and agreed.
"""

import io
import json
import struct
import sys
import zlib
from pathlib import Path

import numpy as np
import tifffile
from PIL import Image, ImageFile

ImageFile.LOAD_TRUNCATED_IMAGES = True
W, H = 24, 17
FOLDER = Path(sys.argv[1])
ENTRIES = []


def scene(channels=3, width=W, height=H):
    """A picture with no symmetry: every orientation of it is another."""
    y, x = np.mgrid[0:height, 0:width]
    planes = [x / (width - 1), y / (height - 1), (x + 2 * y) / (width + 2 * height - 3)]
    if channels == 1:
        return np.stack([0.1 + 0.6 * planes[0] + 0.3 * planes[1] ** 2], axis=2)
    return np.stack([0.05 + 0.9 * p for p in planes], axis=2)


def u8(a):
    return np.round(a * 255).astype("<u1")


def u16(a):
    return np.round(a * 65535).astype("<u2")


def add(name, data, expected=None, *, outcome="read", says="", linear=False, tolerance=1e-6, reference="", note=""):
    """expected: floats, height x width x channels; None where the file is refused."""
    (FOLDER / name).write_bytes(data)
    if expected is not None:
        a = np.asarray(expected, dtype="<f4")
        (FOLDER / (name + ".expected")).write_bytes(struct.pack("<3i", a.shape[1], a.shape[0], a.shape[2]) + a.tobytes())
    ENTRIES.append(dict(file=name, outcome=outcome, says=says, linear=linear, tolerance=tolerance, reference=reference,
                        note=note))


# TIFF -------------------------------------------------------------------------------------------------------------

SIZES = {1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 7: 1, 12: 8, 16: 8}
SHORT, LONG, UNDEFINED = 3, 4, 7


def packed(kind, values, e):
    if kind in (2, 7):
        return bytes(values)
    return struct.pack(e + {1: "B", 3: "H", 4: "I", 12: "d", 16: "Q"}[kind] * len(values), *values)


def tiff(pages, e="<"):
    """pages: (tags {tag: (kind, values)}, strips [bytes]); the first is the first directory."""
    out = bytearray((b"II" if e == "<" else b"MM") + struct.pack(e + "HI", 42, 0))
    link = 4
    for tags, strips in pages:
        offsets = []
        for strip in strips:
            offsets.append(len(out))
            out += strip + b"\0" * (len(strip) % 2)
        tags = dict(tags)
        tiled = 322 in tags
        tags[324 if tiled else 273] = (LONG, offsets)
        tags[325 if tiled else 279] = (LONG, [len(s) for s in strips])
        fields = {}
        for tag, (kind, values) in sorted(tags.items()):
            data = packed(kind, values, e)
            if len(data) > 4:
                at = len(out)
                out += data + b"\0" * (len(data) % 2)
                data = struct.pack(e + "I", at)
            fields[tag] = struct.pack(e + "HHI", tag, kind, len(values)) + data.ljust(4, b"\0")
        out[link : link + 4] = struct.pack(e + "I", len(out))
        out += struct.pack(e + "H", len(fields)) + b"".join(fields[t] for t in sorted(fields))
        link = len(out)
        out += struct.pack(e + "I", 0)
    return bytes(out)


def tags(bits, channels, photometric, width=W, height=H, fmt=1, **more):
    base = {256: (LONG, [width]), 257: (LONG, [height]), 258: (SHORT, [bits] * channels), 259: (SHORT, [1]),
            262: (SHORT, [photometric]), 277: (SHORT, [channels]), 278: (LONG, [height]), 339: (SHORT, [fmt] * channels)}
    base.update({int(k[1:]): v for k, v in more.items()})
    return base


def page(a, bits, photometric, fmt=1, e="<", **more):
    return tags(bits, a.shape[2], photometric, a.shape[1], a.shape[0], fmt, **more), [a.astype(a.dtype.newbyteorder(e)).tobytes()]


def tiffs():
    rgb, grey = scene(), scene(1)
    for e, order in (("<", "little"), (">", "big")):
        add(f"u16-{order}.tif", tiff([page(u16(rgb), 16, 2, e=e)], e), u16(rgb) / 65535, reference="tifffile")
        add(f"half-{order}.tif", tiff([page(rgb.astype("f2"), 16, 2, 3, e=e)], e), rgb.astype("f2"), reference="tifffile")
        add(f"double-{order}.tif", tiff([page(rgb.astype("f8"), 64, 2, 3, e=e)], e), rgb, reference="tifffile")
        whole = np.round(rgb * 4294967295).astype("u4")
        add(f"u32-{order}.tif", tiff([page(whole, 32, 2, e=e)], e), rgb, reference="tifffile")
    add("white-is-zero-16.tif", tiff([page(65535 - u16(grey), 16, 0)]), u16(grey) / 65535, reference="by construction")
    add("white-is-zero-8.tif", tiff([page(255 - u8(grey), 8, 0)]), u8(grey) / 255, reference="Pillow")
    twelve = np.round(grey * 4095).astype(int).reshape(H, W)
    rows = b"".join(bytes(sum(([v >> 4 & 255, (v & 15) << 4 | w >> 8, w & 255] for v, w in zip(r[::2], r[1::2])), []))
                    for r in twelve.tolist())
    add("u12.tif", tiff([(tags(12, 1, 1), [rows])]), np.round(grey * 4095) / 4095, tolerance=1e-4, reference="by construction")
    # Orientations, in every kind of colours that goes its own way through the reader.
    palette = [np.arange(256) * 257, (255 - np.arange(256)) * 257, (np.arange(256) ** 2 % 65536)]
    index = u8(grey)
    looked = np.stack([p[index[:, :, 0].astype(int)] / 65535 for p in palette], axis=2)
    for o in range(1, 9):
        turned = upright(u8(rgb) / 255, o)
        add(f"orientation-{o}.tif", tiff([page(u8(rgb), 8, 2, _274=(SHORT, [o]))]), turned, reference="by construction")
        flat = sum((p.tolist() for p in palette), [])
        add(f"palette-orientation-{o}.tif",
            tiff([page(index, 8, 3, _274=(SHORT, [o]), _320=(SHORT, flat))]), upright(looked, o), reference="by construction")
    four = np.round(grey * 15).astype(int)
    nibbles = b"".join(bytes(a << 4 | b for a, b in zip(r[::2], r[1::2])) for r in four.reshape(H, W).tolist())
    small = [np.arange(16) * 4000 + i for i in range(3)]
    add("palette-4-bits.tif", tiff([(tags(4, 1, 3, _320=(SHORT, sum((p.tolist() for p in small), []))), [nibbles])]),
        np.stack([p[four[:, :, 0]] / 65535 for p in small], axis=2), reference="by construction")
    # Channels beyond the colours.
    alpha = np.linspace(0.2, 1, W)[None, :, None] * np.ones((H, 1, 1))
    multiplied = np.concatenate([rgb * alpha, alpha], axis=2)
    straight = np.concatenate([rgb, alpha], axis=2)
    add("alpha-multiplied-16.tif", tiff([page(u16(multiplied), 16, 2, _338=(SHORT, [1]))]), straight, tolerance=5e-5,
        reference="by construction")
    add("alpha-multiplied-float.tif", tiff([page(multiplied.astype("f4"), 32, 2, 3, _338=(SHORT, [1]))]), straight,
        reference="by construction")
    add("alpha-straight.tif", tiff([page(u16(straight), 16, 2, _338=(SHORT, [2]))]), u16(straight) / 65535,
        reference="by construction")
    add("extra-unspecified.tif", tiff([page(u8(np.concatenate([rgb, 0 * alpha], axis=2)), 8, 2, _338=(SHORT, [0]))]),
        u8(rgb) / 255, outcome="warned", says="further channel", reference="by construction")
    add("extra-undeclared.tif", tiff([page(u8(np.concatenate([rgb, 0 * alpha], axis=2)), 8, 2)]), u8(rgb) / 255,
        outcome="warned", says="further channel", reference="by construction")
    five = np.concatenate([rgb, 0.3 + 0 * alpha, alpha], axis=2)
    add("five-channels.tif", tiff([page(u8(five), 8, 2, _338=(SHORT, [0, 2]))]), u8(straight) / 255, outcome="warned",
        says="further channel", reference="by construction")
    # Floats that are none.
    odd = rgb.astype("f4")
    odd[0, 0], odd[1, 1, 0], odd[2, 2, 0] = np.inf, np.nan, -np.inf
    finite = np.nan_to_num(odd, nan=0, posinf=65504, neginf=0)
    add("not-finite.tif", tiff([page(odd, 32, 2, 3)]), finite, reference="by construction")
    # Pages.
    tiny = u8(scene(3, 6, 4))
    add("reduced-first.tif", tiff([page(tiny, 8, 2, _254=(LONG, [1])), page(u8(rgb), 8, 2)]), u8(rgb) / 255,
        reference="by construction")
    add("two-pages.tif", tiff([page(u8(rgb), 8, 2), page(tiny, 8, 2)]), u8(rgb) / 255, outcome="warned",
        says="2 pictures", reference="Pillow")
    # Other colours. CIELAB under D50; expected by the formulas of CIE 15 and Bradford (ICC.1:2010, annex E).
    lab = np.stack([20 + 60 * rgb[:, :, 0], 40 * rgb[:, :, 1] - 20, 30 - 50 * rgb[:, :, 2]], axis=2)
    l16 = np.stack([np.round(lab[:, :, 0] / 100 * 65535), np.round(lab[:, :, 1] * 256) % 65536,
                    np.round(lab[:, :, 2] * 256) % 65536], axis=2).astype("u2")
    l8 = np.stack([np.round(lab[:, :, 0] / 100 * 255), np.round(lab[:, :, 1]) % 256, np.round(lab[:, :, 2]) % 256],
                  axis=2).astype("u1")
    light = linear_from_lab(lab)
    add("lab-16.tif", tiff([page(l16, 16, 8)]), light, linear=True, tolerance=2e-3, reference="by formula")
    add("lab-8.tif", tiff([page(l8, 8, 8)]), light, linear=True, tolerance=2e-2, reference="by formula")
    inks = np.concatenate([rgb * 0.7, 0.2 * scene(1)], axis=2)
    plain = srgb_to_linear((1 - inks[:, :, :3]) * (1 - inks[:, :, 3:]))
    add("inks-no-profile.tif", tiff([page(u16(inks), 16, 5, _332=(SHORT, [1]))]), plain, outcome="warned",
        says="printing inks", linear=True, tolerance=2e-4, reference="by formula")
    # Ways of storing.
    planes = u8(rgb).transpose(2, 0, 1)
    add("planes.tif", tiff([(tags(8, 3, 2, _284=(SHORT, [2])), [p.tobytes() for p in planes])]), u8(rgb) / 255,
        reference="Pillow")
    padded = np.zeros((32, 32, 3), "u1")
    padded[:H, :W] = u8(rgb)
    tiles = [padded[y : y + 16, x : x + 16].tobytes() for y in (0, 16) for x in (0, 16)]
    t = tags(8, 3, 2, _322=(LONG, [16]), _323=(LONG, [16]))
    del t[278]
    add("tiles.tif", tiff([(t, tiles)]), u8(rgb) / 255, reference="tifffile")
    # Luminance with chroma in tiles, of a height that is no multiple of theirs (TIFF 6.0, section 21; BT.601 weights).
    chroma = np.zeros((32, 32, 3))
    r, g, b = (255 * c for c in np.moveaxis(rgb, 2, 0))
    y = 0.299 * r + 0.587 * g + 0.114 * b
    chroma[:H, :W] = np.round(np.stack([y, 128 + (b - y) / 1.772, 128 + (r - y) / 1.402], axis=2))
    tiles = [chroma[y : y + 16, x : x + 16].astype("u1").tobytes() for y in (0, 16) for x in (0, 16)]
    t = tags(8, 3, 6, _322=(LONG, [16]), _323=(LONG, [16]), _530=(SHORT, [1, 1]))
    del t[278]
    add("chroma-tiles.tif", tiff([(t, tiles)]), rgb, tolerance=2.5 / 255, reference="by formula")
    add("deflate.tif", tiff([(tags(8, 3, 2, _259=(SHORT, [8])), [zlib.compress(u8(rgb).tobytes())])]), u8(rgb) / 255,
        reference="Pillow")
    wide = np.zeros((2, 70000, 1), "u1")
    wide[:, ::7] = 200
    add("side-70000.tif", tiff([page(wide, 8, 1)]), wide / 255, reference="by construction")
    # A profile for grey in a picture of colours, and one that is none.
    grey_profile = made_profile(b"GRAY")
    for name, profile in (("grey-profile", grey_profile), ("broken-profile", b"not a profile at all")):
        add(f"{name}.tif", tiff([page(u8(rgb), 8, 2, _34675=(UNDEFINED, profile))]), u8(rgb) / 255, outcome="warned",
            says="colour profile", reference="by construction")
    # Refused, each in a sentence.
    add("signed.tif", tiff([page(u16(grey), 16, 1, 2)]), outcome="refused", says="signed")
    add("complex.tif", tiff([page(np.zeros((H, W, 1), "c8"), 64, 1, 6)]), outcome="refused", says="uncommon numbers")
    add("huge-and-empty.tif", tiff([(tags(8, 3, 2, 20000, 20000), [b"x" * 8])]), outcome="refused", says="packs so well")
    add("cut.tif", tiff([page(u8(rgb), 8, 2)])[:300], outcome="refused", says="TIFF")


def upright(a, orientation):
    """Exif 2.32, tag 274: where the stored row 0 and column 0 lie."""
    if orientation >= 5:
        a = a.transpose(1, 0, 2)
    flip_rows = {1: 0, 2: 0, 3: 1, 4: 1, 5: 0, 6: 0, 7: 1, 8: 1}[orientation]
    flip_columns = {1: 0, 2: 1, 3: 1, 4: 0, 5: 0, 6: 1, 7: 1, 8: 0}[orientation]
    return a[:: -1 if flip_rows else 1, :: -1 if flip_columns else 1]


def srgb_to_linear(v):
    return np.where(v <= 0.04045, v / 12.92, ((v + 0.055) / 1.055) ** 2.4)


BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])


def xyz_of(x, y):
    return np.array([x / y, 1, (1 - x - y) / y])


def primaries(red, green, blue, white):
    m = np.stack([xyz_of(*red), xyz_of(*green), xyz_of(*blue)], axis=1)
    return m * np.linalg.solve(m, xyz_of(*white))


def adapt(source, target):
    return np.linalg.inv(BRADFORD) @ np.diag((BRADFORD @ target) / (BRADFORD @ source)) @ BRADFORD


D65 = (0.3127, 0.3290)
TO_SRGB = np.linalg.inv(primaries((0.64, 0.33), (0.30, 0.60), (0.15, 0.06), D65))


def linear_from_lab(lab):
    d50 = np.array([0.9642, 1.0, 0.8249])
    fy = (lab[:, :, 0] + 16) / 116
    f = np.stack([fy + lab[:, :, 1] / 500, fy, fy - lab[:, :, 2] / 200], axis=2)
    xyz = np.where(f > 6 / 29, f**3, 3 * (6 / 29) ** 2 * (f - 4 / 29)) * d50
    return xyz @ (TO_SRGB @ adapt(d50, xyz_of(*D65))).T


def made_profile(space):
    """A profile of its kind as far as its head says, with no tags: it cannot be used."""
    head = bytearray(132)
    struct.pack_into(">I", head, 0, 132)
    struct.pack_into(">I", head, 8, 0x04200000)
    head[12:24] = b"mntr" + space + b"XYZ "
    head[36:40] = b"acsp"
    return bytes(head)


# JPEG -------------------------------------------------------------------------------------------------------------


def saved(image, fmt, **more):
    out = io.BytesIO()
    image.save(out, fmt, **more)
    return out.getvalue()


def decoded(data):
    a = np.asarray(Image.open(io.BytesIO(data)), dtype="f4") / 255
    return a[:, :, None] if a.ndim == 2 else a


def jpegs():
    image = Image.fromarray(u8(scene()))
    large = Image.fromarray(u8(scene(3, 160, 120)))
    plain = saved(image, "JPEG", quality=95, subsampling=0)
    expected = decoded(plain)
    add("plain.jpg", plain, expected, reference="Pillow")
    add("progressive.jpg", saved(image, "JPEG", quality=95, progressive=True),
        decoded(saved(image, "JPEG", quality=95, progressive=True)), reference="Pillow")
    add("bytes-before-the-end-marker.jpg", plain[:-2] + b"\1\2\3\4" + plain[-2:], expected, reference="Pillow")
    add("no-end-marker.jpg", plain[:-2], expected, outcome="warned", says="end marker", reference="Pillow")
    at = plain.index(b"\xff\xc4")
    add("stray-bytes-before-a-table.jpg", plain[:at] + b"\0\0\7" + plain[at:], expected, reference="Pillow")
    whole = saved(large, "JPEG", quality=95, subsampling=0)
    cut = whole[: len(whole) * 2 // 3]
    add("cut.jpg", cut, outcome="warned", says="ends too early", note="the upper rows are compared")
    add("cut-before-the-picture.jpg", plain[: plain.index(b"\xff\xda")], outcome="refused", says="JPEG")
    add("grey.jpg", saved(Image.fromarray(u8(scene(1))[:, :, 0]), "JPEG", quality=95),
        decoded(saved(Image.fromarray(u8(scene(1))[:, :, 0]), "JPEG", quality=95)), reference="Pillow")
    for o in range(1, 9):
        exif = Image.Exif()
        exif[274] = o
        data = saved(image, "JPEG", quality=95, subsampling=0, exif=exif)
        add(f"orientation-{o}.jpg", data, upright(decoded(data), o), reference="Pillow, turned")
    inks = Image.fromarray(u8(np.concatenate([scene() * 0.7, 0.2 * scene(1)], axis=2)), "CMYK")
    data = saved(inks, "JPEG", quality=95, subsampling=0)
    opened = np.asarray(Image.open(io.BytesIO(data)), dtype="f4") / 255
    add("inks-no-profile.jpg", data, srgb_to_linear((1 - opened[:, :, :3]) * (1 - opened[:, :, 3:])), outcome="warned",
        says="printing inks", linear=True, tolerance=1e-4, reference="Pillow, by formula")
    for name, profile in (("grey-profile", made_profile(b"GRAY")), ("broken-profile", b"none at all" * 20)):
        add(f"{name}.jpg", saved(image, "JPEG", quality=95, subsampling=0, icc_profile=profile), expected,
            outcome="warned", says="colour profile", reference="Pillow")
    head, scan = plain[: plain.index(b"\xff\xda")], plain[plain.index(b"\xff\xda") : -2]
    many = saved(image, "JPEG", quality=95, progressive=True)
    start = many.index(b"\xff\xda")
    first = many[start : many.index(b"\xff\xc4", start)]
    add("many-scans.jpg", many[:start] + first * 400 + many[start:], outcome="refused", says="scans",
        note="one scan, 400 times")


# PNG --------------------------------------------------------------------------------------------------------------


def chunk(name, data):
    return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))


def png(width, height, depth, colour, rows, before=(), interlace=0):
    raw = b"".join(b"\0" + r for r in rows)
    return (b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", struct.pack(">IIBBBBB", width, height, depth, colour, 0, 0, interlace))
            + b"".join(chunk(n, d) for n, d in before) + chunk(b"IDAT", zlib.compress(raw)) + chunk(b"IEND", b""))


def pngs():
    rgb, grey = scene(), scene(1)
    rows = [r.tobytes() for r in u8(rgb)]
    add("plain.png", png(W, H, 8, 2, rows), u8(rgb) / 255, reference="Pillow")
    deep = [r.astype(">u2").tobytes() for r in u16(rgb)]
    add("u16.png", png(W, H, 16, 2, deep), u16(rgb) / 65535, reference="by construction")
    add("interlaced.png", saved_interlaced(u8(rgb)), u8(rgb) / 255, reference="Pillow")
    palette = np.array([[255, 0, 0], [0, 200, 0], [10, 20, 230]], "u1")
    index = (np.arange(W * H).reshape(H, W) % 3).astype("u1")
    plte = (b"PLTE", palette.tobytes())
    add("palette.png", png(W, H, 8, 3, [r.tobytes() for r in index], [plte]), palette[index] / 255, reference="Pillow")
    beyond = index.copy()
    beyond[3, 4] = 9
    shown = palette[index] / 255
    shown[3, 4] = 0
    add("palette-index-beyond.png", png(W, H, 8, 3, [r.tobytes() for r in beyond], [plte]), shown, outcome="warned",
        says="palette", reference="by construction")
    with_alpha = np.concatenate([palette[index], np.array([10, 128, 255], "u1")[index][:, :, None]], axis=2)
    add("palette-alpha.png", png(W, H, 8, 3, [r.tobytes() for r in index], [plte, (b"tRNS", bytes([10, 128]))]),
        with_alpha / 255, reference="by construction")
    add("grey-key.png", png(W, H, 8, 0, [r.tobytes() for r in u8(grey)[:, :, 0]], [(b"tRNS", struct.pack(">H", 77))]),
        np.concatenate([u8(grey), np.where(u8(grey) == 77, 0, 255)], axis=2) / 255, reference="by construction")
    bits = (grey[:, :, 0] > 0.5).astype("u1")
    add("one-bit.png", png(W, H, 1, 0, [np.packbits(r).tobytes() for r in bits]), bits[:, :, None] * 1.0,
        reference="Pillow")
    # gAMA 1.0: the samples are light themselves. Compared in light, by way of the profile the program makes of it.
    add("gamma-one.png", png(W, H, 16, 2, deep, [(b"gAMA", struct.pack(">I", 100000))]), u16(rgb) / 65535, linear=True,
        tolerance=2e-4, reference="by formula")
    add("gamma-as-srgb.png", png(W, H, 8, 2, rows, [(b"gAMA", struct.pack(">I", 45455))]), u8(rgb) / 255,
        reference="by construction")
    profile = zlib.compress(made_profile(b"GRAY"))
    add("grey-profile.png", png(W, H, 8, 2, rows, [(b"iCCP", b"x\0\0" + profile)]), u8(rgb) / 255, outcome="warned",
        says="colour profile", reference="by construction")
    for o in range(1, 9):
        exif = tiff([({274: (SHORT, [o])}, [b""])])
        add(f"orientation-{o}.png", png(W, H, 8, 2, rows, [(b"eXIf", exif)]), upright(u8(rgb) / 255, o),
            reference="by construction")
    wide = np.zeros((2, 70000), "u1")
    wide[:, ::5] = 90
    add("side-70000.png", png(70000, 2, 8, 0, [r.tobytes() for r in wide]), wide[:, :, None] / 255,
        reference="by construction")
    claims = (b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", struct.pack(">IIBBBBB", 20000, 20000, 8, 6, 0, 0, 0))
              + chunk(b"IDAT", zlib.compress(b"\0" * 50)) + chunk(b"IEND", b""))
    add("claims-much.png", claims, outcome="refused", says="packs so well")
    add("cut.png", png(W, H, 8, 2, rows)[:200], outcome="refused", says="PNG")


def saved_interlaced(a):
    """Adam7 (PNG specification, third edition, 8.1)."""
    height, width, _ = a.shape
    raw = b""
    for y0, x0, dy, dx in ((0, 0, 8, 8), (0, 4, 8, 8), (4, 0, 8, 4), (0, 2, 4, 4), (2, 0, 4, 2), (0, 1, 2, 2), (1, 0, 2, 1)):
        for row in a[y0::dy, x0::dx]:
            if len(row):
                raw += b"\0" + row.tobytes()
    return (b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 1))
            + chunk(b"IDAT", zlib.compress(raw)) + chunk(b"IEND", b""))


# WebP -------------------------------------------------------------------------------------------------------------


def webps():
    image, other = Image.fromarray(u8(scene())), Image.fromarray(u8(1 - scene()))
    add("lossless.webp", saved(image, "WEBP", lossless=True), u8(scene()) / 255, reference="Pillow")
    lossy = saved(image, "WEBP", quality=90)
    add("lossy.webp", lossy, decoded(lossy), reference="Pillow", tolerance=0.02)
    moving = saved(image, "WEBP", lossless=True, save_all=True, append_images=[other], duration=100)
    add("animation.webp", moving, u8(scene()) / 255, outcome="warned", says="animation", reference="Pillow")
    for o in range(1, 9):
        exif = Image.Exif()
        exif[274] = o
        add(f"orientation-{o}.webp", saved(image, "WEBP", lossless=True, exif=exif), upright(u8(scene()) / 255, o),
            reference="Pillow, turned")
    add("cut.webp", saved(image, "WEBP", lossless=True)[:60], outcome="refused", says="WebP")


# Blank, and of more pixels than any photo of their few bytes ------------------------------------------------------


def arithmetic_jpeg(width, height, progressive):
    """Arithmetic coding (ITU-T T.81, annex D) reads zeros for ever where the data ends."""
    def segment(marker, data):
        return b"\xff" + bytes([marker]) + struct.pack(">H", len(data) + 2) + data

    frame = struct.pack(">BHHB", 8, height, width, 3) + b"".join(bytes([i, 0x11, 0]) for i in (1, 2, 3))
    scan = bytes([3, 1, 0, 2, 0, 3, 0]) + (b"\0\0\0" if progressive else b"\0\x3f\0")
    return (b"\xff\xd8" + segment(0xdb, b"\0" + bytes([1] * 64)) + segment(0xca if progressive else 0xc9, frame)
            + segment(0xda, scan) + b"\0" * 8 + b"\xff\xd9")


def blank_webp(width, height):
    """Where every code has one symbol, pixels take no bits: the size of a small one can be stated anew."""
    data = bytearray(saved(Image.new("RGB", (1, 1)), "WEBP", lossless=True))
    at = data.index(b"VP8L") + 9  # 14 bits each of width and height, less one (WebP lossless specification, 3)
    data[at:at + 4] = struct.pack("<I", (struct.unpack("<I", data[at:at + 4])[0] & ~0xfffffff)
                                  | (width - 1) | (height - 1) << 14)
    return bytes(data)


def blanks():
    says = "no photo packs so well"
    for progressive in (False, True):
        add(f"blank-arithmetic-{'progressive' if progressive else 'baseline'}.jpg",
            arithmetic_jpeg(31000, 16000, progressive), outcome="refused", says=says)
    add("blank.webp", blank_webp(16383, 16383), outcome="refused", says=says)
    add("blank-fax.tif", saved(Image.new("1", (30000, 16000)), "TIFF", compression="group4"), outcome="refused", says=says)
    rows = [bytes(20000 // 8)] * 19000
    add("blank-one-bit.png", png(20000, 19000, 1, 0, rows), outcome="refused", says=says)
    palette = [(b"PLTE", bytes(6)), (b"tRNS", b"\x10\xff")]
    add("blank-palette.png", png(20000, 19000, 1, 3, rows, palette), outcome="refused", says=says)


# OpenEXR ----------------------------------------------------------------------------------------------------------


def attribute(name, kind, data):
    return name.encode() + b"\0" + kind.encode() + b"\0" + struct.pack("<i", len(data)) + data


def exr_header(channels, more=b"", compression=0, width=W, height=H):
    listed = b"".join(n.encode() + b"\0" + struct.pack("<iB3xii", {"f2": 1, "f4": 2}[t], 0, s, s)
                      for n, (t, s, _) in sorted(channels.items())) + b"\0"
    box = struct.pack("<4i", 0, 0, width - 1, height - 1)
    return (attribute("channels", "chlist", listed) + attribute("compression", "compression", bytes([compression]))
            + attribute("dataWindow", "box2i", box) + attribute("displayWindow", "box2i", box)
            + attribute("lineOrder", "lineOrder", b"\0") + attribute("pixelAspectRatio", "float", struct.pack("<f", 1))
            + attribute("screenWindowCenter", "v2f", struct.pack("<2f", 0, 0))
            + attribute("screenWindowWidth", "float", struct.pack("<f", 1)) + more + b"\0")


def exr_lines(channels, height=H):
    lines = []
    for y in range(height):
        data = b""
        for _, (t, s, plane) in sorted(channels.items()):
            if y % s == 0:
                data += plane[y // s].astype("<" + t).tobytes()
        lines.append(data)
    return lines


def exr(channels, more=b"", width=W, height=H):
    """channels: name -> (f2 or f4, sampling, plane)."""
    out = b"\x76\x2f\x31\x01" + struct.pack("<I", 2) + exr_header(channels, more, 0, width, height)
    lines = exr_lines(channels, height)
    at, offsets, body = len(out) + 8 * height, [], b""
    for y, data in enumerate(lines):
        offsets.append(at + len(body))
        body += struct.pack("<ii", y, len(data)) + data
    return out + struct.pack(f"<{height}Q", *offsets) + body


def exr_parts(parts):
    heads, count = [], H
    for name, channels in parts:
        heads.append(exr_header(channels, attribute("name", "string", name) + attribute("type", "string", b"scanlineimage")
                                + attribute("chunkCount", "int", struct.pack("<i", count))))
    out = b"\x76\x2f\x31\x01" + struct.pack("<I", 2 | 0x1000) + b"".join(heads) + b"\0"
    at, body, tables = len(out) + 8 * count * len(parts), b"", b""
    for i, (_, channels) in enumerate(parts):
        for y, data in enumerate(exr_lines(channels)):
            tables += struct.pack("<Q", at + len(body))
            body += struct.pack("<iii", i, y, len(data)) + data
    return out + tables + body


def exrs():
    rgb = scene() * 1.7
    def three(a, t="f4", prefix=""):
        return {prefix + c: (t, 1, a[:, :, i]) for i, c in enumerate("RGB")}
    add("float.exr", exr(three(rgb)), rgb, linear=True, reference="by construction")
    add("half.exr", exr(three(rgb, "f2")), rgb.astype("f2"), linear=True, reference="by construction")
    grey = scene(1)
    add("luminance.exr", exr({"Y": ("f4", 1, grey[:, :, 0])}), grey, linear=True, reference="by construction")
    add("layer.exr", exr(three(rgb, prefix="diffuse.")), rgb, linear=True, reference="by construction")
    add("other-names.exr", exr({"red": ("f4", 1, rgb[:, :, 0]), "green": ("f4", 1, rgb[:, :, 1]),
                                "blue": ("f4", 1, rgb[:, :, 2])}), rgb, linear=True, reference="by construction")
    add("depth-only.exr", exr({"Z": ("f4", 1, grey[:, :, 0])}), grey, linear=True, outcome="warned", says="shown as grey",
        reference="by construction")
    add("further-channel.exr", exr({**three(rgb), "Z": ("f4", 1, grey[:, :, 0])}), rgb, linear=True, outcome="warned",
        says="channels Z", reference="by construction")
    odd = rgb.astype("f4")
    odd[0, 0, 0], odd[1, 1, 1], odd[2, 2, 2] = np.inf, np.nan, -np.inf
    add("not-finite.exr", exr(three(odd)), np.nan_to_num(odd, nan=0, posinf=65504, neginf=0), linear=True,
        reference="by construction")
    alpha = np.linspace(0.25, 1, W)[None, :, None] * np.ones((H, 1, 1))
    add("alpha.exr", exr({**three(rgb * alpha), "A": ("f4", 1, alpha[:, :, 0])}), np.concatenate([rgb, alpha], axis=2),
        linear=True, tolerance=1e-5, reference="by construction")
    add("two-parts.exr", exr_parts([(b"first", three(rgb)), (b"second", three(1 - scene()))]), rgb, linear=True,
        outcome="warned", says="2 parts", reference="by construction")
    # ITU-R BT.2020's primaries (table 3).
    wide = ((0.708, 0.292), (0.170, 0.797), (0.131, 0.046), D65)
    stated = attribute("chromaticities", "chromaticities", struct.pack("<8f", *[v for p in wide for v in p]))
    add("chromaticities.exr", exr(three(rgb), stated), rgb @ (TO_SRGB @ primaries(*wide)).T, linear=True, tolerance=1e-3,
        reference="by formula")
    # Luminance with chroma of every fourth pixel; of a picture of one colour, so that nothing hangs on the filter.
    flat = np.broadcast_to(np.array([0.6, 0.3, 0.15]), (16, 24, 3))
    y = flat @ np.array([0.2126, 0.7152, 0.0722])
    ry, by = (flat[:, :, 0] - y) / y, (flat[:, :, 2] - y) / y
    add("luminance-chroma.exr", exr({"Y": ("f2", 1, y), "RY": ("f2", 2, ry[::2, ::2]), "BY": ("f2", 2, by[::2, ::2])},
                                    b"", 24, 16), flat, linear=True, tolerance=2e-3, reference="by formula")
    add("cut.exr", exr(three(rgb))[:600], outcome="refused", says="OpenEXR")


def check_references():
    """The readers named in the table are asked as well."""
    for entry in ENTRIES:
        if entry["outcome"] == "refused" or not (FOLDER / (entry["file"] + ".expected")).exists():
            continue
        path, raw = FOLDER / entry["file"], (FOLDER / (entry["file"] + ".expected")).read_bytes()
        width, height, channels = struct.unpack("<3i", raw[:12])
        expected = np.frombuffer(raw[12:], "<f4").reshape(height, width, channels)
        if entry["reference"] == "tifffile":
            seen = tifffile.imread(path)
        elif entry["reference"] == "Pillow" and not entry["linear"]:
            image = Image.open(path)
            seen = np.asarray(image.convert("RGB") if image.mode == "P" else image)
        else:
            continue
        seen = seen.reshape(height, width, -1)[:, :, :channels]
        full = {"u1": 255, "u2": 65535, "u4": 4294967295, "b1": 1}.get(seen.dtype.str[1:], 1)
        worst = np.abs(seen.astype("f8") / full - expected).max()
        assert worst <= max(entry["tolerance"], 1e-6), (entry["file"], worst)


FOLDER.mkdir(parents=True, exist_ok=True)
tiffs()
jpegs()
pngs()
webps()
blanks()
exrs()
check_references()
(FOLDER / "zoo.json").write_text(json.dumps(ENTRIES, indent=1))
print(len(ENTRIES), "files")
