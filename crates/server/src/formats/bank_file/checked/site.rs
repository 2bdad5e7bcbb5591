//! The air and the place of a site.

use super::Looking;
use crate::db::NewSite;
use rainshadow_core::quantity::bounds;

impl Looking {
    /// Record lows stand beside the means of the months, and no place lies beyond a pole.
    pub(super) fn air(&mut self, site: &NewSite) {
        match (site.lows, &site.climate) {
            (Some(_), None) => self.fault("site.lows", "they stand beside the means of the months"),
            (Some(lows), Some(means)) => {
                if let Err(why) = lows.beside(means) {
                    self.fault("site.lows", why);
                }
            }
            (None, _) => {}
        }
        if let Some(Err(why)) = site.latitude.map(|own| bounds::LATITUDE.check(own)) {
            self.fault("site.latitude", why);
        }
    }
}
