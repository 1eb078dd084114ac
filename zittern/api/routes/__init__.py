"""One module per noun: projects, shots, motion, imports, exports, tables (what the page needs to know once, and sets)."""
