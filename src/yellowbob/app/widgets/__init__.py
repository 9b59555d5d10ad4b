"""What serves several benches: fields, cards, camera, painter, theme."""
