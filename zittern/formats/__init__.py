"""Reading and writing camera paths.

In dependency order:

paths         a sampled camera path -> keyed move; what a reader returns
files         bytes from disk, with limits, and sidecar files that stay in the folder
reduced       few cubic keys for nodes, within a tolerance in the picture
delivery      settings of an export
csv_rows      THE reader of CSV: header, rows, numbers, each fault with its place
csv_path      the CSV of one camera
take_file     recorded takes, CSV and JSON
cue_csv       cues as CSV
gltf_model    the parts of glTF 2.0 that carry cameras, read and written
gltf_file     a glTF file with its buffers; the GLB container
gltf_motion   animated nodes sampled at any time
gltf_read     a camera anywhere in a node tree -> move
gltf_write    a shot -> glTF/GLB: mounts, layers and lens as nested nodes, every sample or few keys
usd_reader    cameras of OpenUSD, in a separate process
usd_read      a camera anywhere in an OpenUSD file -> move
usd_write     a shot -> OpenUSD: prims for mounts, layers as ops
reader_process  readers that are not our code, each in a process with limits
cut_reader    an OpenTimelineIO document as plain JSON, in a separate process
cut_list      cut lists: what a cut shows of a shot
picture_reader  decoding of a picture, in a separate process
picture_file  pictures for plates
movie_writer  encoding of frames, in a separate process
movie_file    movies: frames handed to the encoder
set_meshes    the triangles of a set, piece by piece
set_file      a set: its objects, and one of them as the subject
shot_json     the shot's own JSON
world_axes    paths with Z up or in centimeters
opening       a new shot from a file that can be imported
table         THE TABLE of formats by file ending
"""
