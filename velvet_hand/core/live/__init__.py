"""What a digital indicator sends, understood: lines, stillness, extremes."""
