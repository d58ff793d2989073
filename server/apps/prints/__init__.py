"""PDFs: asked for by a stage, made by a worker, fetched when done."""
