"""Programs beside the product: measuring, training, load."""
