"""Builders of what the application ships: demo shots, sets, plates, takes and the sample cut.

In dependency order:

meshes     primitives as colored triangles
glb        a tree of meshes and animated nodes -> GLB
courier    the courier who walks, and where the courier is
jetty      the plank jetty with its surroundings
deck       a deck, and a signal mast that comes down across it
dunes      dunes above the marsh, with a lamp
kite       the dunes with a kite that flies
sets       writes the shipped GLB files (`make sets`)
paintings  painted plates
plates     writes the shipped plates (`make plates`)
takes      builder of the shipped takes (`make takes`)
shots      the demo shots (`make shots`)
cuts       writes the sample cut (`make cuts`)
"""
