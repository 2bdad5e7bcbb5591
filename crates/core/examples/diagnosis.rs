//! How often the diagnosis tells what made banks have: `cargo run --release -p rainshadow-core --example diagnosis
//! [FIRST_SEED] [BANKS]`.
#![allow(missing_docs, clippy::print_stdout, reason = "tells its figures")]

#[path = "../tests/truth/mod.rs"]
mod truth;

use truth::figures::{Figures, followed};
use truth::world::World;

fn main() {
    let mut args = std::env::args().skip(1).filter_map(|arg| arg.parse::<u64>().ok());
    let first = args.next().unwrap_or(50_000);
    let seeds = first..first + args.next().unwrap_or(1_200);
    println!(
        "| measurements | made | banks | first | among three | likely but wrong | false alarms | sound named | error |"
    );
    for complete in [0.5, 0.75, 1.0] {
        println!("{}", Figures::of(seeds.clone(), complete).row(&format!("{:.0} %", 100.0 * complete)));
    }
    println!("{}", Figures::of_world(World::HARDER, seeds.clone(), 0.75).row("75 %, harder world"));
    let own = Figures::of(seeds.clone(), 0.75);
    println!("{}\n{}", own.bands(), own.confusion());
    let [by_worth, any_order] = followed(seeds);
    println!("90 minutes: {by_worth:.1} % by what is told next, {any_order:.1} % in any order");
}
