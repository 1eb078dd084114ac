"""The web server.

In dependency order:

connection  half-open connections end, and too many are refused
guard    Host and Origin checks, upload limit
problems THE TABLE of errors to problem+json
models   what requests and responses look like
packet   motion as binary float32
timing   where the time of an answer goes
context  what all routes share: library, caches, export jobs
jobs     exports in the background, with progress and cancel
movies   movies under way: frames that come go to the encoder
pictures a picture from a file, kept and ready to be hung
variant_shot  the shot of a request, through the variant that it names
write_queue   the queue of write requests
routes   one module per noun
app      wiring only
export_openapi  the API description that the types of the page are generated from
"""
