//! What a year of charging can be set to, and what it begins with.

use super::super::climate::{clearness_control, climate_controls, latitude_control};
use super::super::control::{Control, ControlKind, figure, group, several};
use super::super::subject::Subject;
use rainshadow_core::charging_plan::usual_array_watts;
use rainshadow_core::equipment::SourceKind;
use rainshadow_core::quantity::units::TemperatureUnit;
use rainshadow_core::schedule::on_the_move;
use rainshadow_core::water::MONTHS;
use rainshadow_core::wording;

/// Amperes of a source of the books.
pub(super) fn amperes_of(
    sources: &[rainshadow_core::equipment::Source],
    kinds: &[SourceKind],
) -> Option<f64> {
    sources.iter().find(|own| own.kind.is_some_and(|kind| kinds.contains(&kind)))?.amperes
}

fn what(key: &'static str, label: &str, value: String, source: &str) -> Control {
    Control::new(ControlKind::Figure, (key, label), value, source)
}

fn check(key: &'static str, label: &str, on: bool, source: &str) -> Control {
    Control::new(ControlKind::Check, (key, label), if on { "yes" } else { "no" }, source)
}

/// Ah of the whole bank at 20 hours.
fn c20(subject: &Subject) -> f64 {
    subject.model.c20.ampere_hours() * f64::from(subject.shape.parallel)
}

/// True where the books tell of such a source.
fn has(subject: &Subject, kinds: &[SourceKind]) -> bool {
    subject.sources.iter().any(|own| own.kind.is_some_and(|kind| kinds.contains(&kind)))
}

/// Amperes of such a source with where they come from: the books, or a tenth of the capacity.
fn amperes(subject: &Subject, kinds: &[SourceKind]) -> (String, &'static str) {
    amperes_of(&subject.sources, kinds).map_or_else(
        || (figure((c20(subject) / 10.0).round()), "a tenth of C20; type what it has"),
        |own| (figure(own), "equipment of the bank"),
    )
}

/// What its record shows drawn, hour by hour, with where that comes from; in an hour that is always charged it is taken as
/// what is drawn all the time. None: its record tells of no current.
fn recorded_loads(subject: &Subject) -> Option<(String, String)> {
    let (own, days) = subject.record.as_ref()?;
    own.drawn_by_hour.iter().find(|hour| hour.is_some())?;
    let all_the_time = own.standing_draw.unwrap_or(0.0);
    let hours = own.drawn_by_hour.map(|hour| hour.unwrap_or(all_the_time));
    let loads = several(hours.into_iter().map(|hour| figure((hour * 10.0).round() / 10.0)));
    Some((loads, wording::loads_on_record(hours.iter().sum(), *days)))
}

/// What is drawn.
fn drawn(subject: &Subject) -> Vec<Control> {
    // A tenth of the capacity a day, most of it in the evening.
    let evening = |hour: u8| if (17..23).contains(&hour) { 3.0 } else { 0.35 };
    let mean = c20(subject) / 10.0 / (0..24).map(evening).sum::<f64>();
    let guessed = || {
        let loads = (0..24).map(|hour| figure((mean * evening(hour) * 10.0).round() / 10.0));
        (several(loads), "a tenth of C20 a day; type what they are".to_owned())
    };
    let (loads, loads_from) = recorded_loads(subject).unwrap_or_else(guessed);
    group(
        "What is drawn",
        [
            Control::new(ControlKind::Hours, ("loads", "Loads from midnight on"), loads, loads_from)
                .unit("A"),
            Control::new(
                ControlKind::Months,
                ("loads_by_month", "Of that, month by month"),
                several(vec!["100".to_owned(); 12]),
                "typed",
            )
            .unit("%"),
            subject.health_control(),
        ],
    )
}

/// Watts of its array with where they come from.
fn watts(subject: &Subject) -> (String, &'static str) {
    let controller = amperes_of(&subject.sources, &[SourceKind::SolarController]);
    let own = usual_array_watts(c20(subject), f64::from(subject.shape.system_voltage), controller);
    let from = match controller {
        Some(_) => "what its controller passes; type its plates",
        None => "a watt for each Ah of 12 V; type its plates",
    };
    (figure(own.round()), from)
}

/// Its array and the light over it.
fn sun(subject: &Subject) -> Vec<Control> {
    let solar = has(subject, &[SourceKind::SolarController]);
    let (plates, plates_from) = watts(subject);
    group(
        "Sun",
        [
            check(
                "solar",
                "It has an array",
                solar || subject.known.is_none(),
                if solar { "equipment of the bank" } else { "" },
            ),
            what("watts", "Array", plates, plates_from).unit("W").when("solar", &["yes"]),
            Control::new(ControlKind::Slider, ("tilt", "Tilt"), "45", "typed; 0 is flat")
                .unit("\u{b0}")
                .range(0.0, 90.0, 5.0)
                .when("solar", &["yes"]),
            what("azimuth", "Looks to", "180".into(), "180 is south").unit("\u{b0}").when("solar", &["yes"]),
            latitude_control(subject).when("solar", &["yes"]),
            what("altitude", "Height over the sea", "400".into(), "typed").unit("m").when("solar", &["yes"]),
            Control::new(
                ControlKind::Slider,
                ("left", "Left of its watts"),
                "75",
                "CH-5: heat, dirt, wires, controller",
            )
            .unit("%")
            .range(40.0, 95.0, 5.0)
            .when("solar", &["yes"]),
            clearness_control().when("solar", &["yes"]),
            Control::new(
                ControlKind::Months,
                ("snow", "Snow leaves"),
                several(vec!["100".to_owned(); 12]),
                "typed",
            )
            .unit("%")
            .when("solar", &["yes"]),
        ],
    )
}

/// An engine as a record shows it.
struct RecordedEngine {
    plate: f64,
    plate_from: String,
    hours: f64,
    hours_from: String,
}

/// What charges a bank that moves and whose equipment nobody told, by its record; a hot alternator gives half of its plate.
fn recorded_engine(subject: &Subject) -> Option<RecordedEngine> {
    let (bank, site) = subject.known.as_ref()?;
    let moves = on_the_move(&format!("{} {}", bank.duty, site.kind));
    let [hours, amperes] =
        subject.record.as_ref().filter(|_| moves && subject.sources.is_empty())?.0.charged?;
    Some(RecordedEngine {
        plate: (2.0 * amperes).round(),
        plate_from: format!("record: {amperes:.0} A while it charges; a hot one gives half of its plate"),
        hours: (hours * 100.0).round() / 100.0,
        hours_from: format!("record: {:.0} min a day", 60.0 * hours),
    })
}

/// Its engine.
fn engine(subject: &Subject) -> Vec<Control> {
    const KINDS: [SourceKind; 1] = [SourceKind::Alternator];
    let told = has(subject, &KINDS);
    let (engine_a, engine_from) = amperes(subject, &KINDS);
    let recorded = recorded_engine(subject);
    let engine = told || recorded.is_some();
    let from = if told {
        "equipment of the bank"
    } else if engine {
        "it moves, and its record shows short charges"
    } else {
        ""
    };
    let (engine_a, engine_from, hours, hours_from) = match recorded {
        Some(own) => (figure(own.plate), own.plate_from, figure(own.hours), own.hours_from),
        None => (engine_a, engine_from.to_owned(), "0.5".to_owned(), "typed".to_owned()),
    };
    group(
        "Engine",
        [
            check("engine", "An engine charges it", engine, from),
            what("engine_amperes", "Alternator", engine_a, &engine_from).unit("A").when("engine", &["yes"]),
            Control::new(ControlKind::Slider, ("engine_hours", "Runs"), hours, hours_from)
                .unit("h a day")
                .range(0.0, 8.0, 0.25)
                .when("engine", &["yes"]),
            what("engine_every", "One day in", "1".into(), "1 is every day").when("engine", &["yes"]),
            what("engine_volts", "Regulator holds", "2.35".into(), "CH-4: 2.33 to 2.37")
                .unit("V a cell")
                .when("engine", &["yes"]),
            what("engine_litres", "It burns", "2".into(), "typed").unit("L an hour").when("engine", &["yes"]),
        ],
    )
}

/// Its generator.
fn generator(subject: &Subject) -> Vec<Control> {
    const KINDS: [SourceKind; 1] = [SourceKind::Generator];
    let generator = has(subject, &KINDS);
    let (generator_a, generator_from) = amperes(subject, &KINDS);
    group(
        "Generator",
        [
            check(
                "generator",
                "A generator charges it",
                generator,
                if generator { "equipment of the bank" } else { "" },
            ),
            what("generator_amperes", "Its charger", generator_a, generator_from)
                .unit("A")
                .when("generator", &["yes"]),
            Control::new(ControlKind::Slider, ("generator_hours", "Runs"), "4", "typed")
                .unit("h")
                .range(0.0, 14.0, 0.5)
                .when("generator", &["yes"]),
            what("generator_every", "One day in", "7".into(), "1 is every day").when("generator", &["yes"]),
            what("generator_litres", "It burns", "1.5".into(), "typed")
                .unit("L an hour")
                .when("generator", &["yes"]),
        ],
    )
}

/// Its plug.
fn shore(subject: &Subject) -> Vec<Control> {
    const KINDS: [SourceKind; 2] = [SourceKind::ShoreCharger, SourceKind::InverterCharger];
    let shore = has(subject, &KINDS);
    let (shore_a, shore_from) = amperes(subject, &KINDS);
    group(
        "Shore or workshop",
        [
            check("shore", "A plug charges it", shore, if shore { "equipment of the bank" } else { "" }),
            what("shore_amperes", "Its charger", shore_a, shore_from).unit("A").when("shore", &["yes"]),
            what("shore_hours", "Plugged for", "10".into(), "a night").unit("h").when("shore", &["yes"]),
            Control::new(ControlKind::Slider, ("shore_every", "One night in"), "30", "typed")
                .unit("days")
                .range(1.0, 90.0, 1.0)
                .when("shore", &["yes"]),
        ],
    )
}

/// A stay.
fn a_stay() -> Vec<Control> {
    group(
        "A stay",
        [
            Control::new(ControlKind::Choice, ("stay_month", "In"), "1", "typed").options(
                MONTHS.iter().enumerate().map(|(n, name)| ((n + 1).to_string(), (*name).to_owned())),
            ),
            Control::new(ControlKind::Slider, ("stay_days", "For"), "7", "typed")
                .unit("days")
                .range(1.0, 60.0, 1.0),
        ],
    )
}

/// Prices.
fn prices() -> Vec<Control> {
    let money = |key, label: &str, value: &str, unit: &str| {
        what(key, label, value.into(), "typed; 0: not told").unit(unit)
    };
    group(
        "Money, own currency",
        [
            money("litre", "Fuel", "0", "a litre"),
            money("kilowatt_hour", "Mains", "0", "a kWh"),
            money("bank_price", "The bank, fitted", "0", ""),
            money("watt", "Array, fitted", "0", "a watt"),
        ],
    )
}

/// What it begins with.
pub(in crate::app::planners) fn controls(subject: &Subject, unit: TemperatureUnit) -> Vec<Control> {
    let parts = [
        drawn(subject),
        sun(subject),
        engine(subject),
        generator(subject),
        shore(subject),
        a_stay(),
        prices(),
        group("The air", climate_controls(subject, unit)),
    ];
    parts.into_iter().flatten().collect()
}
