"""The demo project “Saltmarsh Post” as data: shots, sets, plates, takes and a cut. `tools/demo` builds all of it.

build  puts project and shots into a library when missing
"""
