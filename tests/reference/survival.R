# Makes tests/reference/survival.json: run with Rscript from Debian's r-base-core and r-cran-survival.
# Survival curves by survfit() of the package survival (T. Therneau), on random times that are cut off
# at random; and on the 6-mercaptopurine arm of E. J. Freireich et al., "The effect of
# 6-mercaptopurine on the duration of steroid-induced remissions in acute leukemia", Blood 21 (1963),
# 699-716, which is the data set "gehan" of the package MASS.
library(survival)
set.seed(20260301)
rows <- c()
for (n in c(5, 12, 30, 80, 200)) for (k in 1:3) {
  took <- 1 + floor(rexp(n, 1 / 9))
  cut <- 1 + floor(rexp(n, 1 / 14))
  ended <- took <= cut
  days <- pmin(took, cut)
  fit <- summary(survfit(Surv(days, ended) ~ 1))
  told <- function(x, digits = 15) paste(format(x, digits = digits, trim = TRUE), collapse = ", ")
  rows <- c(rows, sprintf('  {"days": [%s], "ended": [%s], "at": [%s], "atRisk": [%s], "survival": [%s]}',
    told(days), paste(tolower(ended), collapse = ", "), told(fit$time), told(fit$n.risk), told(fit$surv)))
}
cat(sprintf('{"r": "%s", "survival": "%s", "cases": [\n%s\n]}\n', R.version.string,
  packageVersion("survival"), paste(rows, collapse = ",\n")))
