# Areas and overlaps of random UV layouts by Debian's python3-shapely: JSON lines of triangles in, a line each out: sum of areas, sum over pairs of the area of
# their intersection, area of their union, least distance of the first two shapes' outlines.
import json
import sys
from itertools import combinations

from shapely.geometry import Polygon
from shapely.ops import unary_union

for line in sys.stdin:
    triangles = [Polygon([(t[0], t[1]), (t[2], t[3]), (t[4], t[5])]) for t in json.loads(line)]
    shared = sum(a.intersection(b).area for a, b in combinations(triangles, 2))
    print(json.dumps([sum(t.area for t in triangles), shared, unary_union(triangles).area, triangles[0].distance(triangles[1])]))
