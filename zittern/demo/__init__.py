"""The demo project “Saltmarsh Post”: made by our own code, shipped as GLB.

In dependency order:

meshes     primitives as coloured triangles
glb        a tree of meshes and animated nodes -> GLB
courier    the courier who walks, and where the courier is
jetty      the plank jetty with its surroundings
deck       a deck, and a signal mast that comes down across it
dunes      dunes above the marsh, with a lamp
kite       the dunes with a kite that flies
build_sets writes the shipped GLB files (`make sets`)
paintings  painted plates
build_plates writes the shipped plates (`make plates`)
build_takes builder of the shipped takes (`make takes`)
shots      the demo shots
build_cuts writes the sample cut (`make cuts`)
build      puts project and shots into a library when missing
"""
