"""The base of all documents, and their versions.

In dependency order:

timemarks  marks for fields that hold frames
versions   upgrades of older documents, step by step
doc        the base class: frozen, strict, fingerprinted; visitors of the documents in a document
by_axis    documents with one field per axis
"""
