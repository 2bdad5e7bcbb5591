//! Load tests: seconds under a heavy load, minutes under the system's own. Neither is a capacity test.

mod real;
mod recorded;
mod short;

pub use real::{
    InverterOutput, LoadOnPlate, LoadOverInverter, RealLoad, RealLoadError, RealLoadJudged, RealLoadSays,
    expected_drop, judge_real_load,
};
pub use recorded::{LoadedVolts, RealLoadRead, ShortLoadSetUp};
pub use short::{
    ShortLoad, ShortLoadError, ShortLoadJudged, ShortLoadReading, TesterLoad, UNDER_MATES, judge_short_load,
    least_at_half_cranking, load_current,
};
