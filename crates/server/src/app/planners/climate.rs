//! The air and the light of a site, as planners begin with them.

use super::control::{Control, ControlKind, degrees, figure, several, typed_degrees};
use super::subject::Subject;
use super::typed::Typed;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::water::{INVENTED_CLIMATES, InventedClimate, MonthlyMeans, RecordLows};

/// Light of a clear sky that gets through on a mean day, where nobody knows better (our choice, no source).
const CLEARNESS: f64 = 0.55;
/// Key of the climate that is begun with where a site has none.
const FIRST_CLIMATE: &str = "cold_inland";

/// Key of the climate that a plan begins with.
pub(super) fn climate_begun(subject: &Subject) -> &'static str {
    let own = subject.known.as_ref().and_then(|(_, site)| site.climate);
    if own.is_some() { "own" } else { FIRST_CLIMATE }
}

/// Twelve means as controls: the site's own, or those of an invented climate.
pub(super) fn climate_controls(subject: &Subject, unit: TemperatureUnit) -> Vec<Control> {
    let own = subject.known.as_ref().and_then(|(_, site)| site.climate);
    let begin = climate_begun(subject);
    let source = if own.is_some() { "climate of the site" } else { "no climate of the site is known" };
    let invented =
        INVENTED_CLIMATES.iter().map(|own| (own.key.to_owned(), format!("{} (invented)", own.name)));
    let options = [("own".to_owned(), "means by month".to_owned())].into_iter().chain(invented);
    let southern = subject.southern();
    let first = InventedClimate::by_key(FIRST_CLIMATE).map(|own| own.means(southern));
    let means = own.or(first).map(|own| own.celsius()).unwrap_or_default();
    let typed = several(means.iter().map(|own| typed_degrees(*own, unit)));
    vec![
        Control::new(ControlKind::Choice, ("climate", "Air outside"), begin, source).options(options),
        Control::new(ControlKind::Months, ("means", "Mean of the month"), typed, source)
            .unit(degrees(unit))
            .when("climate", &["own"]),
    ]
}

/// The means that are set.
pub(super) fn means(subject: &Subject, typed: &mut Typed<'_>) -> Option<MonthlyMeans> {
    let southern = subject.southern();
    match typed.text("climate") {
        "own" | "" => {
            let own = typed.months_of_degrees("means");
            typed.faults.take("means", MonthlyMeans::try_from(own))
        }
        key => {
            let found = InventedClimate::by_key(key).map(|own| own.means(southern));
            typed.faults.take("climate", found.ok_or(format!("there is no climate \u{201c}{key}\u{201d}")))
        }
    }
}

/// Record lows of the climate that is chosen: of the site, or of one that ships; none: not known.
pub(super) fn lows_of_climate(subject: &Subject, climate: &str) -> Option<RecordLows> {
    match climate {
        "own" | "" => subject.known.as_ref().and_then(|(_, site)| site.lows),
        key => InventedClimate::by_key(key).map(|own| own.lows(subject.southern())),
    }
}

/// Latitude as a control: of the site, or of no place in particular.
pub(super) fn latitude_control(subject: &Subject) -> Control {
    let known = subject.known.as_ref().and_then(|(_, site)| site.latitude);
    let (begin, source) = match known {
        Some(own) => (figure(own), "the site\u{2019}s; south is negative"),
        None if subject.southern() => ("-35".to_owned(), "typed; south is negative"),
        None => ("47".to_owned(), "typed; south is negative"),
    };
    Control::new(ControlKind::Figure, ("latitude", "Latitude"), begin, source).unit("\u{b0}")
}

/// Light against a clear sky, month by month.
pub(super) fn clearness_control() -> Control {
    let begin = several(vec![figure(100.0 * CLEARNESS); 12]);
    let source = "our choice; weather services tell it";
    Control::new(ControlKind::Months, ("clearness", "Light against a clear sky"), begin, source).unit("%")
}
