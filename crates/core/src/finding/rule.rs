//! The rules by their ids, with a title and where they come from.

use serde::{Deserialize, Serialize};

macro_rules! rules {
    ($($(#[$doc:meta])* $name:ident $id:literal $title:literal $source:literal;)+) => {
        /// Id of a rule, the same on every screen, report and test.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        pub enum RuleId {
            $($(#[$doc])* #[serde(rename = $id)] $name,)+
        }

        impl RuleId {
            /// The id as written: "RD-4".
            pub fn id(self) -> &'static str {
                match self { $(Self::$name => $id,)+ }
            }
            /// What the rule is about.
            pub fn title(self) -> &'static str {
                match self { $(Self::$name => $title,)+ }
            }
            /// Where it comes from.
            pub fn source(self) -> &'static str {
                match self { $(Self::$name => $source,)+ }
            }
        }
    };
}

rules! {
    /// Rest voltage from gravity.
    Sg3 "SG-3" "rest volts against gravity" "measured curve of Bode 1977; 0.015 V a cell over and 0.02 V under are common practice";
    /// Level and gravity.
    Sg4 "SG-4" "level and gravity" "15 points for 13 mm on large cells: IEEE 450, from memory";
    /// Acid was added.
    Sg6 "SG-6" "gravity above full" "common practice";
    /// Usable reading.
    Rd1 "RD-1" "a reading that counts" "common practice";
    /// Re-read.
    Rd3 "RD-3" "re-read at once" "common practice, widened by the instrument's noise";
    /// Balance.
    Rd4 "RD-4" "balance of the bank" "common practice, widened by the instrument's noise";
    /// Pattern.
    Rd5 "RD-5" "pattern of the cells" "common practice; a lone cell stands 3.5 robust sigmas off";
    /// Rest volts.
    Rd7 "RD-7" "volts at rest" "common practice; the model's own table wins";
    /// What leads.
    Rd9 "RD-9" "what leads" "common practice, the order by simulation";
    /// Condition.
    Rd8 "RD-8" "condition of a cell" "common practice, widened by the instrument's noise";
    /// Consumption of water and the next fill.
    Wa2 "WA-2" "consumption of water and the next fill" "common practice; range from the bank's own fills";
    /// Order of filling.
    Wa4 "WA-4" "order of filling" "common practice";
    /// Uneven consumption.
    Wa5 "WA-5" "uneven consumption" "common practice";
    /// Watering kit.
    Wa6 "WA-6" "looking behind a watering kit" "common practice";
    /// Ohmic value.
    Oh1 "OH-1" "internal resistance" "IEEE 1188 practice, from memory";
    /// Equalize wanted.
    Eq2 "EQ-2" "equalize by condition or calendar" "common practice";
    /// Before an equalize.
    Eq3 "EQ-3" "before an equalize" "common practice";
    /// A run of an equalize.
    Eq4 "EQ-4" "when a run stops" "common practice; the rule of two hours by simulation";
    /// What an equalize did.
    Eq5 "EQ-5" "what an equalize did" "common practice, widened by the instrument's noise";
    /// Setpoints at a temperature.
    Ch2 "CH-2" "setpoint at this temperature" "the model's own setpoints; 5 mV per °C and cell is common practice";
    /// Charger settings.
    Ch3 "CH-3" "what the charger is set to" "the model's own setpoints; the limits are common practice";
    /// Ventilation.
    Ve1 "VE-1" "air for the hydrogen" "EN/IEC 62485-2, from memory";
    /// Does any source finish the charge?
    Ch5 "CH-5" "does any source finish the charge" "common practice";
    /// Charging record.
    Cr1 "CR-1" "what the record of the charging shows" "common practice";
    /// Parallel strings.
    St1 "ST-1" "share of parallel strings" "the resistor network; copper IEC 60028, from memory";
    /// A battery that ran dry.
    Rc1 "RC-1" "a battery that ran dry" "common practice";
    /// Joints.
    Cn1 "CN-1" "joints and torque" "common practice";
    /// Holding a charge.
    Hd1 "HD-1" "holding a full charge" "common practice";
    /// Short load.
    Lt2 "LT-2" "load test" "common practice";
    /// Real load.
    Lt3 "LT-3" "the system\u{2019}s own load" "common practice";
    /// Volts of cells.
    Cv1 "CV-1" "volts of single cells" "common practice; on float IEEE 450, from memory";
    /// Known load.
    Ct3 "CT-3" "hours of a known load" "common practice";
    /// Timed discharge.
    Ct1 "CT-1" "timed discharge" "IEEE 450, from memory; the ends of cyclic duty are common practice";
    /// Peukert.
    Ct2 "CT-2" "hours at a current" "Peukert\u{2019}s equation; the exponents are common practice";
    /// Before and after storage.
    Sd3 "SD-3" "before and after storage" "common practice";
    /// Storage.
    Sd2 "SD-2" "storage checks" "common practice";
    /// Due date.
    Sc3 "SC-3" "the calendar of the house rules" "common practice";
    /// Look over.
    Lo1 "LO-1" "what the eye finds" "common practice";
}
