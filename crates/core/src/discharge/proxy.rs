//! CT-3: the hours that the same load ran when the bank was new, and now.

use crate::quantity::{OutOfRange, bounds};

/// State of health as a share: hours today over hours when new; more than new is possible and told as it is.
///
/// # Errors
/// [`OutOfRange`] for hours that no discharge takes.
pub fn known_load(when_new: f64, today: f64) -> Result<f64, OutOfRange> {
    Ok(bounds::RATE_HOURS.check(today)? / bounds::RATE_HOURS.check(when_new)?)
}
