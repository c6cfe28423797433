"""What is on the shelf and sold: pieces, deliveries, lists brought in, fitting, warranty."""
