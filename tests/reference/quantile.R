# Makes tests/reference/quantile.json: run with Rscript from Debian's r-base-core.
# R's quantile(type = 1, 2, 7) are the types of Hyndman and Fan (1996).
samples <- list(
  c(1), c(1, 2), c(3, 1, 2), c(1, 2, 3, 4), c(5, 5, 5, 9), c(2, 4, 4, 5, 7, 9, 11, 12, 13, 20),
  c(1.5, 2.25, 8, 13, 21, 34, 55.5), 1:30, c(0, 0, 1, 100)
)
probabilities <- c(0, 0.05, 0.1, 0.25, 1/3, 0.5, 0.75, 0.85, 0.9, 0.95, 1)
rows <- c()
for (s in samples) for (type in c(1, 2, 7)) {
  q <- quantile(s, probabilities, type = type, names = FALSE)
  rows <- c(rows, sprintf('  {"values": [%s], "type": %d, "quantiles": [%s]}', paste(format(s, digits = 15, trim = TRUE), collapse = ", "), type, paste(format(q, digits = 15, trim = TRUE), collapse = ", ")))
}
cat(sprintf('{"r": "%s", "probabilities": [%s], "cases": [\n%s\n]}\n', R.version.string, paste(format(probabilities, digits = 17, trim = TRUE), collapse = ", "), paste(rows, collapse = ",\n")))
