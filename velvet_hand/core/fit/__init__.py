"""Least-squares fits. Every fit returns one frozen result with its covariance and caveats."""
