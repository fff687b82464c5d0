"""The demo's shapes that are not straight from the library: letters, a followed edge, drawn and combined ones."""

from glasscap.core.document.model.placement import ShapePlacement
from glasscap.core.document.shapes.combining import part_at, placed_combined
from glasscap.core.document.shapes.points import placed_points
from glasscap.core.shapes.kinds import Letters, LettersShape, PointsShape, Shape, library_shape
from glasscap.core.shapes.nodes import Node, corner_node
from glasscap.core.shapes.outlines import own_box
from glasscap.core.shapes.typesetting import set_type
from glasscap.files.font_book import FontBook

Placed = tuple[Shape, ShapePlacement]

# The slip bowl's contour as it was followed on the card, 0.9 px smooth.
_BOWL = (
    "M897.06 403.06C887.56 403.48 875.34 379.07 869.76 371.49L850.96 343.19C843.93 333.13 835.08 322.54 8"
    "30.63 311.00C826.03 299.08 825.87 285.80 824.15 273.31C823.28 267.01 817.67 247.49 819.30 242.62C824"
    ".86 226.00 885.83 217.89 900.93 215.81C970.50 206.23 1042.86 207.85 1112.21 217.56C1130.27 220.09 11"
    "68.92 225.50 1180.10 241.75C1182.17 244.75 1177.41 262.24 1176.72 267.17C1174.63 282.11 1174.15 298."
    "56 1168.49 312.76L1143.59 351.33C1133.69 366.63 1124.83 382.70 1113.48 396.92L1069.74 440.75C1063.60"
    " 448.65 1072.74 461.95 1065.75 466.36C1046.32 478.57 951.44 479.80 933.37 465.69C926.89 460.64 936.9"
    "5 449.57 929.37 439.88C920.71 428.78 899.88 416.49 897.06 403.06Z"
)
_BOWL_WAY = (
    "M964.9 210.6L970.2 209.8L1028.9 209.8L1033.3 210.6L1048.2 210.6L1052.6 211.5L1060.5 211.5L1064.9 212"
    ".4L1073.6 212.5L1076.3 213.2L1081.5 213.3L1084.2 214.1L1090.3 214.2L1099.1 215.8L1104.3 216L1112.2 2"
    "17.6L1115.7 217.7L1121.9 219.3L1124.5 219.5L1133.3 221.2L1142 223.5L1145.5 224.1L1156.9 227.6L1163.9"
    " 230.2L1171 233.7L1174.5 236.1L1180.7 242.6L1181 244.4L1181 248.8L1178.5 254L1178.3 258.4L1176.7 267"
    ".2L1176.6 270.7L1175 278.6L1174.8 283L1173.2 290L1173.1 294.4L1172.3 297L1172.2 299.6L1171.1 304.9L1"
    "167.6 314.5L1164.6 318.9L1162.4 323.3L1156.7 331.2L1151 340.8L1148.9 343.4L1134.3 366.2L1132.2 368.9"
    "L1129.9 373.3L1127.1 376.6L1126.2 378.6L1123.9 381.1L1120.3 387.3L1114 396.3L1089.4 421L1085.5 424.1"
    "L1076.7 432.9L1074 436.4L1069.3 441.4L1068.2 443.4L1067.1 447.8L1067.1 452.2L1068.7 460L1068.5 463.6"
    "L1065.8 466.4L1057 469.8L1049.1 471.8L1041.2 472.8L1038.6 473.6L1034.2 473.7L1031.6 474.4L1025.4 474"
    ".6L1021.9 475.4L977.2 475.4L973.7 474.6L965.8 474.4L957.9 472.8L954.4 472.7L945.6 470.7L937.8 468.1L"
    "934.2 466.4L931.2 463.6L930.5 461.8L932.9 451.3L932.9 447.8L932.6 446L930 440.8L926 436.4L923.7 433."
    "3L919.3 429.8L898.8 409.2L897.9 407.4L897.6 403.9L896.6 402.5L893 402.5L891.3 401.7L883.4 391.9L878."
    "8 385.5L877.3 382.6L872.7 376.8L870.4 372.4L865.7 366.2L862.5 361L855.2 350.5L851.1 343.4L849 340.8L"
    "840.6 327.7L838.5 325L834.1 318L830.6 311L827.8 302.2L827.7 297.9L826.1 290.8L825.9 285.6L824.3 278."
    "6L824.2 273.3L822.5 267.2L822.4 261.9L820.4 252.3L819.2 249.6L819 247.9L819.3 242.6L826.2 235.6L829 "
    "233.7L836.1 230.2L845.7 226.7L854.5 224.1L874.6 219.5L877.3 219.3L884.3 217.7L887.8 217.6L895.7 216L"
    "900.9 215.8L908.8 214.2L915.8 214.1L918.5 213.3L923.7 213.2L926.4 212.5L934.2 212.3L937.8 211.5L947."
    "4 211.5L951.8 210.6Z"
)


def letters(text: str, font: str, x: float, y: float, size: float, *, tracking: float = 0.0) -> Placed:
    """Return words set about a centre."""
    made = set_type(Letters(text, font, tracking=tracking), FontBook(has_system=False))
    shape = LettersShape(made.letters, made.path)
    box = own_box(shape)
    assert box is not None
    return shape, ShapePlacement(x, y, box.width * size, box.height * size, keeps_ratio=True)


def followed_bowl() -> Placed:
    """Return the bowl's followed edge."""
    shape = PointsShape(_BOWL, made_by="Followed edge", way=_BOWL_WAY, smoothness=0.9)
    box = own_box(shape)
    assert box is not None
    return shape, ShapePlacement(*box.centre, box.width, box.height)


def drawn_flag(down: float) -> Placed:
    """Return a pennant drawn point by point, its foot a curve, `down` px below the sheet's top."""
    nodes = (
        corner_node(138, 98 + down),
        corner_node(462, 98 + down),
        corner_node(462, 372 + down),
        Node(300, 438 + down, (392, 438 + down), (208, 438 + down), "symmetric"),
        corner_node(138, 372 + down),
    )
    return placed_points((nodes,), None)


def punched_tag(down: float) -> Placed:
    """Return a tile with a hole punched through, of two parts, `down` px below the sheet's top."""
    tile = part_at(library_shape("rectangle", corner=34), ShapePlacement(1440, 370 + down, 300, 330))
    hole = part_at(library_shape("circle"), ShapePlacement(1440, 250 + down, 38, 38), "subtract")
    return placed_combined((tile, hole))
