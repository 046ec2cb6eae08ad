# Makes panels.json: panels with their figures by R's lme4, lmerTest and emmeans, packages independent of this one.
# Rscript panels.R > panels.json
suppressMessages({library(lme4); library(lmerTest); library(emmeans); library(jsonlite)})
set.seed(20261126)
make <- function(samples, assessors, sessions, sd_a, sd_s, sd_as, sd_e, drop = 0) {
  d <- expand.grid(sample = paste0("s", 1:samples), assessor = paste0("a", 1:assessors), session = paste0("d", 1:sessions))
  a <- rnorm(assessors, 0, sd_a); s <- rnorm(sessions, 0, sd_s); as <- matrix(rnorm(samples * assessors, 0, sd_as), samples)
  d$score <- round(5.5 + 0.5 * (as.integer(d$sample) - 2) + a[as.integer(d$assessor)] + s[as.integer(d$session)] +
    as[cbind(as.integer(d$sample), as.integer(d$assessor))] + rnorm(nrow(d), 0, sd_e), 2)
  if (drop > 0) d <- d[-sample(nrow(d), drop), ]
  d
}
fit <- function(name, d, interaction = FALSE) {
  d$sample <- factor(d$sample)
  f <- if (interaction) score ~ 0 + sample + (1 | assessor) + (1 | session) + (1 | assessor:sample) else score ~ 0 + sample + (1 | assessor) + (1 | session)
  m <- suppressMessages(lmer(f, d, REML = TRUE, control = lmerControl(optCtrl = list(xtol_abs = 1e-10, ftol_abs = 1e-12), check.conv.singular = "ignore")))
  v <- as.data.frame(VarCorr(m))
  p <- as.data.frame(summary(pairs(emmeans(m, "sample", lmer.df = "satterthwaite"), adjust = "tukey"), infer = TRUE))
  list(name = name, interaction = interaction,
    rows = data.frame(sample = as.character(d$sample), assessor = as.character(d$assessor), session = as.character(d$session), score = d$score),
    fixed = as.list(fixef(m)), se = as.list(sqrt(diag(as.matrix(vcov(m))))), variances = setNames(as.list(v$vcov), v$grp),
    levels = list(assessor = as.list(setNames(ranef(m)$assessor[, 1], rownames(ranef(m)$assessor))), session = as.list(setNames(ranef(m)$session[, 1], rownames(ranef(m)$session)))),
    deviance = REMLcrit(m),
    pairs = data.frame(pair = p$contrast, estimate = p$estimate, se = p$SE, df = p$df, low = p$lower.CL, high = p$upper.CL, p = p$p.value))
}
cases <- list(
  fit("balanced", make(4, 6, 2, 0.8, 0.4, 0, 0.7)),
  fit("missing", make(5, 8, 3, 1.0, 0.5, 0, 0.9, drop = 37)),
  fit("assessors who differ in what they like", make(4, 7, 3, 0.8, 0.3, 0.9, 0.6, drop = 11), TRUE),
  fit("no session effect", make(3, 6, 4, 0.9, 0, 0, 1.0, drop = 5)),
  fit("nothing but noise", make(4, 5, 3, 0, 0, 0, 1.0, drop = 9)))
cat(toJSON(cases, auto_unbox = TRUE, digits = 8))
